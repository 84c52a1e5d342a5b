import { levelsAbout, readTide, tideOf, type Tide } from '@restless-shoal/core/tide';
import { overDatum } from '@restless-shoal/core/chart';
import type { Look } from '@restless-shoal/core/logbook';
import { latestChart, latestChartId } from '../db/charts';
import { contactsOf, readingsOfWater, responsesOf, stopsOf, trackOf, tripsOf, type TripRow } from '../db/log';
import type { Pool } from '../db/pool';
import type { WaterRow } from '../db/waters';
import { digestOf } from './derivations';
import { runLooks, type TaskOptions } from './pool';
import type { LooksTask } from './worker';

/** Beam of the water's first rig that names one, degrees. */
export function beamOf(water: WaterRow): number {
  const rigs = Array.isArray(water.rigs) ? (water.rigs as { beam_deg?: unknown }[]) : [];
  const beam = rigs.map((r) => Number(r?.beam_deg)).find((b) => b > 0 && b < 120);
  return beam ?? 20;
}

export interface TripWithLooks {
  trip: TripRow;
  looks: Look[];
  outside: string[];
}

const stampOf = (water: WaterRow, trip: TripRow, chart: number): string => digestOf('looks', [trip.changed_at, chart, water.version]);

/** Trips whose looks are missing, or whose trip, chart or water has changed since; told without reading a look. */
export async function staleLooks(pool: Pool, water: WaterRow): Promise<TripRow[]> {
  if (!water.outline || !water.epsg) return [];
  const [trips, chart, kept] = await Promise.all([
    tripsOf(pool, water.id),
    latestChartId(pool, water.id),
    pool.query<{ trip_id: string; stamp: string }>(
      'SELECT l.trip_id, l.stamp FROM looks l JOIN trips t ON t.id = l.trip_id WHERE t.water_id = $1',
      [water.id],
    ),
  ]);
  const byTrip = new Map(kept.rows.map((r) => [r.trip_id, r.stamp]));
  return trips.filter((t) => byTrip.get(t.id) !== stampOf(water, t, chart ?? 0));
}

/** The looks of all trips of a water as they are kept. */
export async function keptLooks(pool: Pool, water: WaterRow): Promise<TripWithLooks[]> {
  const [trips, kept] = await Promise.all([
    tripsOf(pool, water.id),
    pool.query<{ trip_id: string; body: Look[]; outside: string[] }>(
      'SELECT l.trip_id, l.body, l.outside FROM looks l JOIN trips t ON t.id = l.trip_id WHERE t.water_id = $1',
      [water.outline && water.epsg ? water.id : null],
    ),
  ]);
  const byTrip = new Map(kept.rows.map((r) => [r.trip_id, r]));
  return trips.map((trip) => ({ trip, looks: byTrip.get(trip.id)?.body ?? [], outside: byTrip.get(trip.id)?.outside ?? [] }));
}

/** The looks of some trips as they are kept. */
export const looksOfTrips = async (pool: Pool, trips: string[]): Promise<{ trip: string; looks: Look[] }[]> =>
  trips.length
    ? (
        await pool.query<{ trip: string; looks: Look[] }>('SELECT trip_id AS trip, body AS looks FROM looks WHERE trip_id = ANY($1)', [
          trips,
        ])
      ).rows
    : [];

interface TripLevel {
  trip: string;
  at: number;
  level: number;
}

/** Levels read on a water's trips, above the datum of its chart. */
async function levelsOf(pool: Pool, water: WaterRow): Promise<TripLevel[]> {
  const read = (await readingsOfWater(pool, water.id)).flatMap((r): TripLevel[] =>
    r.water_level_m === null ? [] : [{ trip: r.trip, at: Date.parse(r.time), level: r.water_level_m }],
  );
  return overDatum(read, water.altitude_m).readings;
}

/** How far the water stood above the datum of its chart on a trip, m, by the trip's own readings: others change without it. 0 without any. */
function levelOfTrip(levels: TripLevel[], trip: string): number {
  const own = levels.filter((r) => r.trip === trip);
  return own.length ? own.reduce((sum, r) => sum + r.level, 0) / own.length : 0;
}

/** What a trip's looks are derived from. With a tide its level is the mean over what was logged: a footprint minds a metre of depth little. */
async function rowsOf(pool: Pool, id: string, levels: TripLevel[], tide: Tide | null): Promise<LooksTask['trips'][number]> {
  const track = await trackOf(pool, id);
  const stops = await stopsOf(pool, id);
  const heights = tide
    ? levelsAbout(
        tide,
        [...track.map((t) => t.time), ...stops.map((s) => s.start)].map((t) => Date.parse(t)),
      )
    : [];
  return {
    id,
    level: heights.length ? heights.reduce((sum, h) => sum + h.level, 0) / heights.length : levelOfTrip(levels, id),
    track,
    stops,
    contacts: await contactsOf(pool, id),
    responses: await responsesOf(pool, id),
  };
}

/** The looks of all trips of a water; those that are stale are derived anew. */
export async function freshLooks(pool: Pool, water: WaterRow, options: TaskOptions = {}): Promise<TripWithLooks[]> {
  const stale = await staleLooks(pool, water);
  const trips = await keptLooks(pool, water);
  if (!stale.length || !water.outline || !water.epsg) return trips;
  const chart = await latestChart(pool, water.id);
  const levels = await levelsOf(pool, water);
  const byTrip = new Map(trips.map((t) => [t.trip.id, t]));
  // A few trips at a time, so that the rows of a long log need not be in memory at once.
  for (let from = 0; from < stale.length; from += 8) {
    const batch = stale.slice(from, from + 8);
    const rows = await Promise.all(batch.map((t) => rowsOf(pool, t.id, levels, tideOf(readTide(water.tide)))));
    const derived = await runLooks(
      { epsg: water.epsg, outline: water.outline, chart: chart?.body ?? null, beam: beamOf(water), trips: rows },
      { ...options, onProgress: (s) => options.onProgress?.((from + s * batch.length) / stale.length) },
    );
    for (const [k, one] of derived.entries()) {
      Object.assign(byTrip.get(one.id)!, { looks: one.looks, outside: one.outside });
      await pool.query(
        'INSERT INTO looks (trip_id, stamp, body, outside) VALUES ($1, $2, $3, $4) ON CONFLICT (trip_id) DO UPDATE SET stamp = EXCLUDED.stamp, body = EXCLUDED.body, outside = EXCLUDED.outside',
        [one.id, stampOf(water, batch[k], chart?.id ?? 0), JSON.stringify(one.looks), JSON.stringify(one.outside)],
      );
    }
  }
  return trips;
}

/**
 * The looks of a day up to a moment, from what had been logged by then alone.
 * @param dayOf the date of a moment where the water lies
 */
export async function looksOfDay(pool: Pool, water: WaterRow, at: Date, dayOf: (t: Date) => string): Promise<Look[]> {
  const chart = await latestChart(pool, water.id);
  if (!water.outline || !water.epsg || !chart) return [];
  const trips = (await tripsOf(pool, water.id)).filter((t) => {
    const start = new Date(t.start);
    return start <= at && dayOf(start) === dayOf(at);
  });
  const levels = (await levelsOf(pool, water)).filter((r) => r.at <= at.getTime());
  const by = <R extends { time?: string; start?: string }>(rows: R[]): R[] =>
    rows.filter((r) => Date.parse((r.time ?? r.start)!) <= at.getTime());
  const rows = await Promise.all(
    trips.map(async ({ id }) => {
      const all = await rowsOf(pool, id, levels, tideOf(readTide(water.tide)));
      // A stop that goes on is fished up to the moment.
      const stops = by(all.stops).map((s) => (s.end && Date.parse(s.end) > at.getTime() ? { ...s, end: at.toISOString() } : s));
      return { ...all, track: by(all.track), stops, contacts: by(all.contacts), responses: by(all.responses) };
    }),
  );
  if (!rows.length) return [];
  const derived = await runLooks({ epsg: water.epsg, outline: water.outline, chart: chart.body, beam: beamOf(water), trips: rows });
  return derived.flatMap((d) => d.looks).sort((a, b) => a.from - b.from);
}
