import { buildChart, coverPoints, packChart, unpackChart } from '@restless-shoal/core/chart';
import { castsOf, fitModel, looksForFit, packModel, type WaterFrame } from '@restless-shoal/core/forecast';
import { metricPlane, outlineToRings, WaterCells, type OutlineGeometry, type Rings } from '@restless-shoal/core/geo';
import {
  deriveLooks,
  tripInPlane,
  type Contact,
  type CoverFeature,
  type Look,
  type ProfileRow,
  type Reading,
  type Response,
  type Stop,
  type TrackFix,
} from '@restless-shoal/core/logbook';
import { findSpecies, type SpeciesProfile } from '@restless-shoal/core/species';
import type { MessagePort } from 'node:worker_threads';

// What runs in worker threads: thin shells round core, so that a long computation never holds up a request.

interface WithPort {
  port?: MessagePort;
}

export interface ChartTask extends WithPort {
  epsg: number;
  outline: OutlineGeometry;
  outlineProposed: boolean;
  latitude: Float64Array;
  longitude: Float64Array;
  depth: Float32Array;
  hardness: Float32Array;
  cover: CoverFeature[];
}

const ringsOf = (epsg: number, outline: OutlineGeometry): Rings => {
  const plane = metricPlane(epsg);
  return outlineToRings(outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
};

/** Builds and packs a chart. */
export function chart(task: ChartTask): Uint8Array {
  const plane = metricPlane(task.epsg);
  const n = task.latitude.length;
  const [x, y] = [new Float64Array(n), new Float64Array(n)];
  for (let i = 0; i < n; i++) [x[i], y[i]] = plane.toMetric({ latitude: task.latitude[i], longitude: task.longitude[i] });
  const built = buildChart(
    task.epsg,
    ringsOf(task.epsg, task.outline),
    { x, y, depth: task.depth, hardness: task.hardness },
    {
      cover: coverPoints(task.cover, ([longitude, latitude]) => plane.toMetric({ latitude, longitude })),
      shoreIsZero: !task.outlineProposed,
      onProgress: (share) => task.port?.postMessage(share),
    },
  );
  return packChart(built);
}

export interface LooksTask extends WithPort {
  epsg: number;
  outline: OutlineGeometry;
  chart: Uint8Array | null;
  beam: number;
  trips: { id: string; track: TrackFix[]; stops: Stop[]; contacts: Contact[]; responses: Response[] }[];
}

export interface TripLooks {
  id: string;
  looks: Look[];
  outside: string[];
}

/** Derives the looks of trips. */
export function looks(task: LooksTask): TripLooks[] {
  const plane = metricPlane(task.epsg);
  const cells = new WaterCells(ringsOf(task.epsg, task.outline));
  const depth = task.chart ? unpackChart(task.chart).depth : null;
  return task.trips.map((trip, i) => {
    const derived = deriveLooks(tripInPlane(plane, trip), cells, { depthAt: (x, y) => depth?.at(x, y) ?? NaN, beam: task.beam });
    task.port?.postMessage((i + 1) / task.trips.length);
    return { id: trip.id, ...derived };
  });
}

export interface FitTask extends WithPort {
  species: SpeciesProfile;
  known: SpeciesProfile[];
  chart: Uint8Array;
  frame: WaterFrame;
  trips: Look[][];
  readings: Reading[];
  profiles: ProfileRow[];
}

/** Fits a species on a water's looks and packs the fit. */
export function fit(task: FitTask): Uint8Array {
  const { cells } = unpackChart(task.chart);
  const readings = task.readings.map((row) => ({ at: Date.parse(row.time), row })).sort((a, b) => a.at - b.at);
  const fitLooks = looksForFit(task.trips, cells, task.frame, readings, castsOf(task.profiles));
  const is = (name: string): boolean => findSpecies(name, task.known)?.name === task.species.name;
  return packModel(
    fitModel(task.species, cells, fitLooks, is, { onProgress: (share) => task.port?.postMessage(share), now: () => performance.now() }),
  );
}
