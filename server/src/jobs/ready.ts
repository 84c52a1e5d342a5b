import { packChart, unpackChart, type Chart } from '@restless-shoal/core/chart';
import {
  ENOUGH_OF_ITS_OWN,
  frameLength,
  LEAST_BORROWED,
  levelBaseOf,
  surfaceReadings,
  unpackModel,
  type Model,
  type ScoreCard,
  type TimedReading,
  type WaterFrame,
} from '@restless-shoal/core/forecast';
import { metricPlane, ringsToOutline, ringsCentroid, utmEpsg } from '@restless-shoal/core/geo';
import { sortOf, usualCourse } from '@restless-shoal/core/lake';
import { SEA_SALINITY } from '@restless-shoal/core/sonar';
import { findSpecies, readDepthRule, type SpeciesProfile } from '@restless-shoal/core/species';
import { highWaterSprings, levelsAbout, readTide, tideOf } from '@restless-shoal/core/tide';
import { zoneOffset } from '@restless-shoal/core/units';
import { rodHours, type RodHours, type RodHoursInput } from '@restless-shoal/core/patterns';
import { latestChart, loadChart, storeChart, type ChartRow } from '../db/charts';
import { profilesOfWater, readingsOfWater, responsesOfWater, stopsOfWater, tripsOf, type TripRow } from '../db/log';
import type { Pool } from '../db/pool';
import { markedHardness, soundingColumns } from '../db/soundings';
import { coverOf, setOutline, speciesOf, waterById, type WaterRow } from '../db/waters';
import { codeOf, digestOf } from './derivations';
import { beamOf, freshLooks } from './looks';
import { runChart, runFit, runScore, type TaskOptions } from './pool';
import type { FitTask } from './worker';
import { ToldError } from '../told-error';

/** Where the water lies and how large it is. */
export function frameOf(water: WaterRow, chart: Chart, readings: TimedReading[]): WaterFrame {
  const centre = water.outline ? ringsCentroid(water.outline) : { latitude: water.latitude ?? 0, longitude: water.longitude ?? 0 };
  const altitude = water.altitude_m ?? 0;
  return {
    ...centre,
    altitude,
    kind: water.kind,
    tide: readTide(water.tide),
    levelBase: levelBaseOf(readings, altitude),
    course: usualCourse(surfaceReadings(readings), centre.latitude, altitude),
    deepest: Math.max(1, chart.deepest),
    lengthKm: frameLength(chart.cells.column, chart.cells.row),
    rule: readDepthRule(water.rules, water.kind),
  };
}

/** The middle one of some values, of up to some thousands of them: one fix gone astray does not move it. */
function middleOf(values: Float64Array): number {
  const step = Math.ceil(values.length / 5000);
  return values.filter((_, k) => k % step === 0).sort()[Math.floor(Math.ceil(values.length / step) / 2)];
}

/**
 * Builds a water's chart from its soundings and the depths of its tracks, proposing an outline where none was given.
 * @returns null when there is nothing to build from
 */
export async function buildWaterChart(
  pool: Pool,
  water: WaterRow,
  options: TaskOptions = {},
): Promise<{ id: number; soundings: number; cells: number; chart: Chart } | null> {
  // What changes from here on wants another build.
  const madeFor = (await waterById(pool, water.account_id, water.id))?.chart_wanted ?? 0;
  const soundings = await soundingColumns(pool, water.id);
  const outline = water.outline_proposed ? null : water.outline;
  if (!outline && soundings.count < 3) return null;
  const epsg = water.epsg ?? utmEpsg({ latitude: middleOf(soundings.latitude), longitude: middleOf(soundings.longitude) });
  const tide = tideOf(readTide(water.tide));
  const readings = await readingsOfWater(pool, water.id);
  const read = readings.flatMap((r) => (r.water_level_m === null ? [] : [{ at: Date.parse(r.time), level: r.water_level_m }]));
  // The tide knows every moment; a gauge was read now and then.
  const levels = tide
    ? [...levelsAbout(tide, soundings.time), ...read.filter((r) => Number.isNaN(tide.height(r.at)))].sort((a, b) => a.at - b.at)
    : read;
  const sort = sortOf(water.kind, tide !== null);
  const built = await runChart(
    {
      epsg,
      outline,
      outlineProposed: water.outline_proposed,
      soundings,
      marks: await markedHardness(pool, water.id),
      cover: await coverOf(pool, water.id),
      settings: water.cleaning ?? {},
      levels,
      altitude: water.altitude_m,
      sort,
      salinity: middleOf(Float64Array.from(readings.flatMap((r) => r.salinity ?? []))) || (sort === 'coast' ? SEA_SALINITY : 0),
      shore: tide && sort === 'coast' ? highWaterSprings(tide, soundings.time.findLast(Number.isFinite) ?? Date.now()) : 0,
      currents: readings.flatMap((r) =>
        r.current_to_deg === null || !r.current_speed_ms || r.latitude === null || r.longitude === null
          ? []
          : [{ latitude: r.latitude, longitude: r.longitude, set: r.current_to_deg }],
      ),
    },
    options,
  );
  if (!built) return null;
  const { chart, proposed } = built;
  if (proposed) {
    const plane = metricPlane(epsg);
    const geometry = ringsToOutline(proposed, (p) => {
      const { latitude, longitude } = plane.toLatLon(p);
      return [longitude, latitude];
    });
    await setOutline(pool, water.id, geometry, epsg, true);
    // One that was drawn meanwhile has stayed, and wants a build of its own.
    const { outline, outline_proposed } = (await waterById(pool, water.account_id, water.id)) ?? water;
    Object.assign(water, { outline, epsg, outline_proposed });
  }
  return {
    id: await storeChart(pool, water.id, chart, packChart(chart), madeFor, codeOf('chart')),
    soundings: chart.soundings,
    cells: chart.cells.count,
    chart,
  };
}

/** Rates by rod-hour of a water's log. @param is whether a name is the species asked for */
export async function rodHoursOf(pool: Pool, water: WaterRow, is: (species: string | null) => boolean): Promise<RodHours> {
  const [trips, stops, responses, readings, chart, tracked] = await Promise.all([
    tripsOf(pool, water.id),
    stopsOfWater(pool, water.id),
    responsesOfWater(pool, water.id),
    readingsOfWater(pool, water.id),
    loadChart(pool, water.id),
    pool.query<{ id: string }>(
      'SELECT t.id FROM trips t WHERE t.water_id = $1 AND EXISTS (SELECT 1 FROM track k WHERE k.trip_id = t.id AND k.deleted_at IS NULL)',
      [water.id],
    ),
  ]);
  const tide = tideOf(readTide(water.tide));
  const ways = new Set(tracked.rows.map((r) => r.id));
  const zone = water.time_zone ?? 'UTC';
  const plane = chart && metricPlane(chart.epsg);
  const centre = water.outline ? ringsCentroid(water.outline) : { latitude: water.latitude ?? 0, longitude: water.longitude ?? 0 };
  return rodHours({
    trips: trips.map((t) => ({ id: t.id, start: t.start, end: t.end, tracked: ways.has(t.id) })),
    stops: stops as RodHoursInput['stops'],
    responses: responses as RodHoursInput['responses'],
    readings: readings as RodHoursInput['readings'],
    depthAt: (latitude, longitude, at) =>
      chart && plane && chart.soundings ? chart.depth.at(...plane.toMetric({ latitude, longitude })) + (tide ? tide.height(at) : 0) : NaN,
    is,
    ...centre,
    localOf: (at) => {
      const local = new Date(at + zoneOffset(at, zone));
      return { month: local.getUTCMonth() + 1, clock: local.toISOString().slice(11, 23) };
    },
  });
}

/** A name that no profile of the water knows. */
export class UnknownSpeciesError extends ToldError {
  constructor(
    readonly species: string,
    readonly known: string[],
  ) {
    super(`species "${species}" is not known on this water; known are ${known.join(', ')}`);
  }
}

export async function speciesNamed(
  pool: Pool,
  water: WaterRow,
  name: string,
): Promise<{ species: SpeciesProfile; known: SpeciesProfile[] }> {
  const known = await speciesOf(pool, water.id);
  const species = findSpecies(name, known);
  if (!species)
    throw new UnknownSpeciesError(
      name,
      known.map((s) => s.name),
    );
  return { species, known };
}

export interface FitResult {
  model: Model;
  body: Uint8Array;
  reused: boolean;
  fittedAt: string;
}

interface Source {
  water: string;
  inputs: string;
  body: Uint8Array;
}

/**
 * The fit of another water that a fit of this one starts from while it has few trips of its own: the one with most
 * contacts of the species that borrowed nothing itself. Fits that stand are used, none is made for it.
 */
async function sourceFor(
  pool: Pool,
  water: WaterRow,
  species: SpeciesProfile,
  trips: TripRow[],
  until: Date | null,
): Promise<Source | null> {
  if (trips.length >= ENOUGH_OF_ITS_OWN) return null;
  const found = await pool.query<Source>(
    `SELECT w.name AS water, m.inputs, m.body FROM models m JOIN waters w ON w.id = m.water_id
      WHERE w.account_id = $1 AND w.deleted_at IS NULL AND w.id <> $2 AND m.species = $3 AND m.stats->'borrowed' = 'null' AND m.stats->>'method' = $7
        AND (m.stats->>'trips')::int >= $4 AND (m.stats->>'contacts')::float8 >= $5
        AND ($6::float8 IS NULL OR (m.stats->>'to')::float8 <= $6)
      ORDER BY (m.stats->>'contacts')::float8 DESC, m.id DESC LIMIT 1`,
    [water.account_id, water.id, species.name, LEAST_BORROWED.trips, LEAST_BORROWED.contacts, until && until.getTime(), codeOf('fit')],
  );
  return found.rows[0] ?? null;
}

/** What a fit rests on, as a digest: the same digest needs no new fit. All that `fitTask` hands to the fit is in it. */
function inputsOf(
  water: WaterRow,
  species: SpeciesProfile,
  known: SpeciesProfile[],
  chart: ChartRow,
  trips: TripRow[],
  source: Source | null,
  until: Date | null,
): string {
  return digestOf('fit', [
    codeOf('looks'),
    species,
    // A mark of another species may be one of these, and the other way round.
    known,
    [water.rules, water.altitude_m, water.latitude, water.longitude, beamOf(water), ...(water.tide ? [water.tide] : [])],
    chart.id,
    trips.map((t) => [t.id, t.changed_at]),
    source?.inputs,
    until && trips.length === 0 ? 'none' : '',
  ]);
}

/** The trips that may train a forecast: all, or those ended by a moment. */
const trainedBy = (trips: TripRow[], until: Date | null): TripRow[] =>
  until ? trips.filter((t) => t.end != null && Date.parse(t.end) <= until.getTime()) : trips;

/** The newest fit of a species and whether it still rests on all that is logged; null when there is none. */
export async function latestFit(
  pool: Pool,
  water: WaterRow,
  species: SpeciesProfile,
): Promise<{ body: Buffer; fittedAt: string; stats: unknown; stale: boolean } | null> {
  const chart = await latestChart(pool, water.id);
  const found = await pool.query<{ body: Buffer; fitted_at: string; stats: unknown; inputs: string }>(
    "SELECT body, fitted_at, stats, inputs FROM models WHERE water_id = $1 AND species = $2 AND stats->>'method' = $3 ORDER BY id DESC LIMIT 1",
    [water.id, species.name, codeOf('fit')],
  );
  if (!found.rowCount || !chart) return null;
  const row = found.rows[0];
  const [trips, known] = [await tripsOf(pool, water.id), await speciesOf(pool, water.id)];
  return {
    body: row.body,
    fittedAt: row.fitted_at,
    stats: row.stats,
    stale: row.inputs !== inputsOf(water, species, known, chart, trips, await sourceFor(pool, water, species, trips, null), null),
  };
}

async function fitTask(
  pool: Pool,
  water: WaterRow,
  species: SpeciesProfile,
  known: SpeciesProfile[],
  chart: ChartRow,
  trips: TripRow[],
  source: Source | null,
  until: Date | null,
  options: TaskOptions,
): Promise<FitTask> {
  const wanted = new Set(trips.map((t) => t.id));
  const looks = (await freshLooks(pool, water, options)).filter((t) => wanted.has(t.trip.id));
  const upTo = (time: string): boolean => !until || Date.parse(time) <= until.getTime();
  const readings = (await readingsOfWater(pool, water.id)).filter((r) => upTo(r.time));
  return {
    species,
    known,
    chart: chart.body,
    frame: frameOf(
      water,
      unpackChart(chart.body),
      readings.map((row) => ({ at: Date.parse(row.time), row })),
    ),
    trips: looks.map((t) => t.looks),
    readings,
    profiles: (await profilesOfWater(pool, water.id)).filter((r) => upTo(r.time)),
    borrowed: source && { water: source.water, body: source.body },
  };
}

/** What the newest fit is worth on trips held out; the card is null where too little is logged. Null while nobody scored one. */
export async function scoresOfFit(pool: Pool, water: WaterRow, species: SpeciesProfile): Promise<{ card: ScoreCard | null } | null> {
  const found = await pool.query<{ card: ScoreCard | null }>(
    "SELECT scores->'card' AS card FROM models WHERE water_id = $1 AND species = $2 AND scores->>'code' = $3 ORDER BY id DESC LIMIT 1",
    [water.id, species.name, codeOf('scores')],
  );
  return found.rows[0] ?? null;
}

/** Scores the fit of all that is logged on trips held out, and keeps that with the fit. */
export async function scoreFit(pool: Pool, water: WaterRow, name: string, options: TaskOptions = {}): Promise<void> {
  const { species, known } = await speciesNamed(pool, water, name);
  const chart = await latestChart(pool, water.id);
  if (!chart) throw new Error(`${water.name} has no chart yet: import soundings or an outline first`);
  const trips = await tripsOf(pool, water.id);
  const source = await sourceFor(pool, water, species, trips, null);
  const inputs = inputsOf(water, species, known, chart, trips, source, null);
  const scored = await pool.query("SELECT 1 FROM models WHERE water_id = $1 AND species = $2 AND inputs = $3 AND scores->>'code' = $4", [
    water.id,
    species.name,
    inputs,
    codeOf('scores'),
  ]);
  if (scored.rowCount) return;
  const card = await runScore(await fitTask(pool, water, species, known, chart, trips, source, null, { signal: options.signal }), options);
  await pool.query('UPDATE models SET scores = $4 WHERE water_id = $1 AND species = $2 AND inputs = $3', [
    water.id,
    species.name,
    inputs,
    JSON.stringify({ code: codeOf('scores'), card }),
  ]);
}

/** Fits a species on a water, or hands out a fit that is still valid. @param until only trips ended by then train it */
export async function freshFit(
  pool: Pool,
  water: WaterRow,
  name: string,
  until: Date | null,
  options: TaskOptions = {},
): Promise<FitResult> {
  const { species, known } = await speciesNamed(pool, water, name);
  const chart = await latestChart(pool, water.id);
  if (!chart) throw new Error(`${water.name} has no chart yet: import soundings or an outline first`);
  const trips = trainedBy(await tripsOf(pool, water.id), until);
  const source = await sourceFor(pool, water, species, trips, until);
  const inputs = inputsOf(water, species, known, chart, trips, source, until);
  const found = await pool.query<{ body: Buffer; fitted_at: string }>(
    'SELECT body, fitted_at FROM models WHERE water_id = $1 AND species = $2 AND inputs = $3',
    [water.id, species.name, inputs],
  );
  if (found.rowCount)
    return { model: unpackModel(found.rows[0].body), body: found.rows[0].body, reused: true, fittedAt: found.rows[0].fitted_at };
  const task = await fitTask(pool, water, species, known, chart, trips, source, until, {
    ...options,
    onProgress: (s) => options.onProgress?.(0.3 * s),
  });
  const body = await runFit(task, { ...options, onProgress: (s) => options.onProgress?.(0.3 + 0.7 * s) });
  const model = unpackModel(body);
  const stored = await pool.query<{ fitted_at: string }>(
    'INSERT INTO models (water_id, species, inputs, stats, body) VALUES ($1, $2, $3, $4, $5) ON CONFLICT (water_id, species, inputs) DO UPDATE SET fitted_at = now() RETURNING fitted_at',
    [water.id, species.name, inputs, JSON.stringify({ ...model.stats, method: codeOf('fit') }), Buffer.from(body)],
  );
  // The newest few are kept: going back and forth between dates should not mean fitting again.
  await pool.query(
    'DELETE FROM models WHERE water_id = $1 AND species = $2 AND id NOT IN (SELECT id FROM models WHERE water_id = $1 AND species = $2 ORDER BY id DESC LIMIT 8)',
    [water.id, species.name],
  );
  return { model, body, reused: false, fittedAt: stored.rows[0].fitted_at };
}
