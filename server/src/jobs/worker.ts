import {
  calibrateHardness,
  cellsOf,
  cleanSoundings,
  coverPoints,
  hardPoints,
  laySurface,
  mainBody,
  proposeOutline,
  shapesOf,
  unpackChart,
  type Chart,
  type ChartFeature,
  type Cleaned,
  type CleanSettings,
  type CleanStep,
  type CoverPoints,
  type LevelReading,
  type SoundingColumns,
  type Surface,
  type WaterNature,
  type Worked,
} from '@restless-shoal/core/chart';
import {
  atTheirLevels,
  borrowFrom,
  groupProfiles,
  fitModel,
  looksForFit,
  packModel,
  speciesOdds,
  unpackModel,
  validate,
  type Borrowed,
  type FitLook,
  type ScoreCard,
  type WaterFrame,
} from '@restless-shoal/core/forecast';
import {
  metricPlane,
  outlineBox,
  outlineToRings,
  Raster,
  WaterCells,
  type OutlineGeometry,
  type Point,
  type Rings,
} from '@restless-shoal/core/geo';
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
import type { WaterSort } from '@restless-shoal/core/lake';
import type { DemoName } from '@restless-shoal/core/contract';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { MessagePort } from 'node:worker_threads';
import { demoFiles, type DemoFile } from '../import/demo';
import type { StoredSoundings } from '../db/soundings';

// What runs in worker threads: thin shells round core, so that a long computation never holds up a request.

interface WithPort {
  port?: MessagePort;
}

export interface ChartTask extends WithPort {
  epsg: number;
  /** Null: one is proposed from the soundings. */
  outline: OutlineGeometry | null;
  outlineProposed: boolean;
  soundings: StoredSoundings;
  marks: { latitude: number; longitude: number; hardness: number }[];
  cover: CoverFeature[];
  settings: CleanSettings;
  levels: LevelReading[];
  altitude: number | null;
  sort: WaterSort;
  /** Practical salinity of the water; 0: fresh. */
  salinity: number;
  /** Height of the shore line above datum, m. */
  shore: number;
  /** Currents read on a river, degrees true. */
  currents: { latitude: number; longitude: number; set: number }[];
}

/** The bottom as laid, with what the other parts of a build need. */
export interface LaidBottom {
  surface: Surface;
  rings: Rings;
  /** The outline was proposed from the soundings. */
  proposed: boolean;
  cleaning: CleanStep[];
  cover: CoverPoints[];
  nature: WaterNature;
}

const ringsOf = (epsg: number, outline: OutlineGeometry): Rings => {
  const plane = metricPlane(epsg);
  return outlineToRings(outline, (longitude, latitude) => plane.toMetric({ latitude, longitude }));
};

/** A drawn hard patch tells of hardness every so many metres, and this hard. */
const HARD = 0.9;

/** The soundings that belong to the water: a file that strayed in from elsewhere is kept in the log and charts nothing. */
function ofTheWater(all: StoredSoundings, outline: OutlineGeometry | null): StoredSoundings {
  const belongs = mainBody(all.latitude, all.longitude, outline && outlineBox(outline));
  const kept = belongs.reduce((sum, v) => sum + v, 0);
  if (kept === all.count) return all;
  const pick = <T extends Float64Array | Float32Array | Int32Array>(column: T): T => column.filter((_, i) => belongs[i] === 1) as T;
  return {
    count: kept,
    time: pick(all.time),
    latitude: pick(all.latitude),
    longitude: pick(all.longitude),
    depth: pick(all.depth),
    temperature: pick(all.temperature),
    hardness: pick(all.hardness),
    survey: pick(all.survey),
  };
}

/** Cleans soundings and lays the bottom through them. @returns null when there is nothing to chart */
export function bottom(task: ChartTask): LaidBottom | null {
  const plane = metricPlane(task.epsg);
  const toMetric = (longitude: number, latitude: number): Point => plane.toMetric({ latitude, longitude });
  const own = ofTheWater(task.soundings, task.outline);
  const { count: n, latitude, longitude, time, depth, temperature, survey } = own;
  const say = (share: number, words: string): void => task.port?.postMessage({ share, words });
  say(0.03, `placing ${n} soundings`);
  const [x, y] = [new Float64Array(n), new Float64Array(n)];
  for (let i = 0; i < n; i++) [x[i], y[i]] = toMetric(longitude[i], latitude[i]);
  say(0.1, 'cleaning');
  const cleaned = cleanSoundings({ time, x, y, depth, hardness: own.hardness, temperature, survey }, task.settings, {
    levels: task.levels,
    altitude: task.altitude,
    tidal: task.sort === 'coast',
    salinity: task.salinity,
  });
  const strayed = task.soundings.count - n;
  if (strayed) {
    const [first] = cleaned.steps;
    first.leftOut += strayed;
    first.words = `${strayed} lie kilometres from the water; ${first.words}`;
  }
  const hardness = own.hardness.slice();
  calibrateHardness(cleaned.x, cleaned.y, survey, hardness);
  const kept = keptOnly(cleaned, hardness);
  // Neither a shore nor a sounding that is right: there is no water to chart.
  if (!task.outline && kept.x.length < 3) return null;
  const proposed = !task.outline;
  const rings = task.outline ? ringsOf(task.epsg, task.outline) : proposeOutline(kept.x, kept.y);
  say(0.35, 'laying the bottom');
  const surface = laySurface(task.epsg, rings, kept, {
    hard: [
      ...task.marks.map((m) => ({
        x: toMetric(m.longitude, m.latitude)[0],
        y: toMetric(m.longitude, m.latitude)[1],
        hardness: m.hardness,
      })),
      ...hardPoints(task.cover, ([lon, lat]) => toMetric(lon, lat)).map(([px, py]) => ({ x: px, y: py, hardness: HARD })),
    ],
    shore: task.outlineProposed || proposed ? null : task.shore,
    onProgress: (share) => say(0.35 + 0.65 * share, 'laying the bottom'),
  });
  return {
    surface,
    rings,
    proposed,
    cleaning: cleaned.steps,
    cover: coverPoints(task.cover, ([lon, lat]) => toMetric(lon, lat)),
    nature: {
      sort: task.sort,
      currents: task.currents.map(({ latitude: lat, longitude: lon, set }) => {
        const [cx, cy] = toMetric(lon, lat);
        return { x: cx, y: cy, set };
      }),
    },
  };
}

/** A raster that came from another thread: its numbers without its methods. */
const raster = ({ x0, y0, size, width, height, data }: Raster): Raster => new Raster(x0, y0, size, width, height, data);

const whole = (surface: Surface): Surface => ({ ...surface, depth: raster(surface.depth), hardness: raster(surface.hardness) });

/** Names the shapes of a bottom. */
export const shapes = ({ surface, nature, port }: Pick<LaidBottom, 'surface' | 'nature'> & WithPort): ChartFeature[] =>
  shapesOf(whole(surface), (share) => port?.postMessage({ share, words: 'reading the shape of the bottom' }), nature.sort);

/** Works out the cells of a bottom, and how far it can be relied on. */
export const cells = ({ surface, rings, cover, nature }: LaidBottom): Worked => cellsOf(whole(surface), rings, cover, nature);

/** Columns without the soundings that were left out. */
function keptOnly({ x, y, depth, left }: Cleaned, hardness: Float32Array): SoundingColumns {
  let n = 0;
  for (let i = 0; i < left.length; i++) if (!left[i]) n++;
  if (n === left.length) return { x, y, depth, hardness };
  const out = { x: new Float64Array(n), y: new Float64Array(n), depth: new Float32Array(n), hardness: new Float32Array(n) };
  for (let i = 0, k = 0; i < left.length; i++) {
    if (left[i]) continue;
    out.x[k] = x[i];
    out.y[k] = y[i];
    out.depth[k] = depth[i];
    out.hardness[k++] = hardness[i];
  }
  return out;
}

export interface LooksTask extends WithPort {
  epsg: number;
  outline: OutlineGeometry;
  chart: Uint8Array | null;
  beam: number;
  /** `level`: how far the water stood above the datum of the chart, m. */
  trips: { id: string; level: number; track: TrackFix[]; stops: Stop[]; contacts: Contact[]; responses: Response[] }[];
}

export interface TripLooks {
  id: string;
  looks: Look[];
  outside: string[];
}

/** Makes a demo water and its log. */
export const demo = ({ which }: { which: DemoName }): DemoFile[] => demoFiles(which);

/** Derives the looks of trips. */
export function looks(task: LooksTask): TripLooks[] {
  const plane = metricPlane(task.epsg);
  const cells = new WaterCells(ringsOf(task.epsg, task.outline));
  const depth = task.chart ? unpackChart(task.chart).depth : null;
  return task.trips.map((trip, i) => {
    const derived = deriveLooks(tripInPlane(plane, trip), cells, {
      depthAt: (x, y) => (depth?.at(x, y) ?? NaN) + trip.level,
      beam: task.beam,
    });
    task.port?.postMessage({ share: (i + 1) / task.trips.length });
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
  /** The packed fit of another water to start from. */
  borrowed: { water: string; body: Uint8Array } | null;
}

const borrowedOf = ({ borrowed }: FitTask): Borrowed | null => borrowed && borrowFrom(unpackModel(borrowed.body), borrowed.water);

function looksOfTask(task: FitTask): { cells: Chart['cells']; looks: FitLook[] } {
  const { cells } = unpackChart(task.chart);
  const readings = task.readings.map((row) => ({ at: Date.parse(row.time), row })).sort((a, b) => a.at - b.at);
  return atTheirLevels(cells, looksForFit(task.trips, cells, task.frame, readings, groupProfiles(task.profiles)));
}

/** Fits a species on a water's looks and packs the fit. */
export function fit(task: FitTask): Uint8Array {
  const { cells, looks } = looksOfTask(task);
  const sorted = speciesOdds(looks, task.species, task.known, cells);
  return packModel(
    fitModel(task.species, cells, sorted, {
      borrowed: borrowedOf(task),
      onProgress: (share) => task.port?.postMessage({ share }),
      now: () => performance.now(),
    }),
  );
}

/** Scores fits of a species on trips held out; null where there is too little to hold out. */
export function score(task: FitTask): ScoreCard | null {
  const { cells, looks } = looksOfTask(task);
  return validate(looks, task.species, task.known, cells, task.frame, {
    borrowed: borrowedOf(task),
    onProgress: (share, words) => task.port?.postMessage({ share, words }),
  });
}

export { readSheets as sheets } from '../import/parts/read-sheets';
export { readFeatures as features } from '../import/parts/read-features';
