import { overDatum } from '../chart';
import { tidyProfile, usualAt, type DatedProfile, type SurfaceReading } from '../lake';
import type { Reading } from '../logbook';
import { tideOf } from '../tide';
import { statement, type Statement } from '../statements';
import { courseOf, type Conditions, type WaterFrame } from './conditions';

/** A reading with its time in ms. */
export interface TimedReading {
  at: number;
  row: Reading;
}

export type CarriedCode = 'carried.surface.usual' | 'carried.surface.moved' | 'carried.clarity' | 'carried.wind';

/** Conditions with what had to be carried over or modelled. */
export interface LoggedConditions {
  conditions: Conditions;
  /** When the newest reading used was made; null when there was none. */
  readAt: Date | null;
  said: Statement<CarriedCode>[];
}

const DAY = 86_400_000;
/** A reading older than this no longer speaks for the day; the season's usual course is followed instead. */
const STALE_DAYS = 21;
/** A current that was read so many days ago no longer speaks for the day. */
const CURRENT_DAYS = 3;
/** So does a salinity: rain and tides change it. */
const SALINITY_DAYS = 3;
/** Secchi depth where none was ever read, m. */
const ASSUMED_CLARITY = 2;

/** What a water's gauge tells where it stands at the datum of its chart, m: gauges tell metres above the sea, or above a mark of their own. */
export const levelBaseOf = (readings: TimedReading[], altitude: number): number =>
  overDatum(
    readings.flatMap(({ at, row }) => (row.water_level_m == null ? [] : [{ at, level: row.water_level_m }])),
    altitude,
  ).base;

/** The surface temperatures among readings. */
export const surfaceReadings = (readings: TimedReading[]): SurfaceReading[] =>
  readings.flatMap(({ at, row }) => (row.surface_temperature_c == null ? [] : [{ at, surface: row.surface_temperature_c }]));

/** Surface temperature that the usual course of a water suggests for a date where nothing was read, °C. */
export const usualSurface = (at: Date, frame: WaterFrame): number => usualAt(courseOf(frame), at.getTime(), frame.latitude);

/** @param within no older than so many days */
function latest<T>(
  readings: TimedReading[],
  at: number,
  pick: (row: Reading) => T | null,
  within = Infinity,
): { value: T; at: number } | null {
  for (let i = readings.length - 1; i >= 0; i--) {
    if (readings[i].at > at) continue;
    if (readings[i].at < at - within * DAY) return null;
    const value = pick(readings[i].row);
    if (value != null) return { value, at: readings[i].at };
  }
  return null;
}

/**
 * The conditions at a moment, from the log alone.
 * @param readings of the water, sorted by time @param within readings made up to this long after `at` still count, ms
 *   (for a look, the reading of the same trip may have been made later)
 */
export function conditionsFromLog(readings: TimedReading[], at: Date, frame: WaterFrame, within = 0): LoggedConditions {
  const until = at.getTime() + within;
  const said: Statement<CarriedCode>[] = [];
  const days = (then: number): number => (at.getTime() - then) / DAY;
  const surfaceRead = latest(readings, until, (r) => r.surface_temperature_c);
  let surface: number;
  if (!surfaceRead) {
    surface = usualSurface(at, frame);
    said.push(statement('carried.surface.usual'));
  } else {
    const season = usualSurface(at, frame) - usualSurface(new Date(surfaceRead.at), frame);
    surface = Math.max(0, surfaceRead.value + (days(surfaceRead.at) > 2 ? season : 0));
    if (days(surfaceRead.at) > 2) said.push(statement('carried.surface.moved', { days: Math.round(days(surfaceRead.at)) }));
  }
  const secchi = latest(readings, until, (r) => r.secchi_m);
  if (!secchi) said.push(statement('carried.clarity', { assumed: ASSUMED_CLARITY }));
  const wind = latest(readings, until, (r) =>
    r.wind_speed_ms != null && r.wind_from_deg != null ? { from: r.wind_from_deg, speed: r.wind_speed_ms } : null,
  );
  const windFresh = wind && days(wind.at) < 2 ? wind.value : null;
  if (!windFresh) said.push(statement('carried.wind'));
  return {
    conditions: {
      at,
      surface,
      trend: surfaceTrend(readings, at, frame, surfaceRead != null && days(surfaceRead.at) < STALE_DAYS),
      secchi: secchi?.value ?? ASSUMED_CLARITY,
      windFrom: windFresh?.from ?? 0,
      windSpeed: windFresh?.speed ?? 0,
      cloud: latest(readings, until, (r) => (r.cloud_fraction == null ? null : r.cloud_fraction), 12 / 24)?.value ?? null,
      ...(tidalLevel(at, frame) ?? levelOf(readings, until)),
      current:
        latest(
          readings,
          until,
          (r) => (r.current_speed_ms != null && r.current_to_deg != null ? { set: r.current_to_deg, rate: r.current_speed_ms } : null),
          CURRENT_DAYS,
        )?.value ?? null,
      salinity: latest(readings, until, (r) => r.salinity, SALINITY_DAYS)?.value ?? null,
      thermoclineSet: null,
    },
    readAt: surfaceRead ? new Date(surfaceRead.at) : null,
    said,
  };
}

/** The level by the tide, as the water's gauge would tell it, and its change, m a week; null where no tide is known. */
function tidalLevel(at: Date, { tide, levelBase = 0 }: WaterFrame): Pick<Conditions, 'level' | 'levelTrend'> | null {
  const height = tideOf(tide)?.height(at.getTime()) ?? NaN;
  return Number.isNaN(height) ? null : { level: levelBase + height, levelTrend: null };
}

/** The latest level within three weeks and its change over the readings before, m a week. */
function levelOf(readings: TimedReading[], until: number): Pick<Conditions, 'level' | 'levelTrend'> {
  const read = readings.filter((r) => r.row.water_level_m != null && r.at <= until && r.at > until - STALE_DAYS * DAY);
  if (!read.length) return { level: null, levelTrend: null };
  const [first, last] = [read[0], read[read.length - 1]];
  const weeks = (last.at - first.at) / (7 * DAY);
  return {
    level: last.row.water_level_m as number,
    levelTrend: weeks < 0.4 ? null : ((last.row.water_level_m as number) - (first.row.water_level_m as number)) / weeks,
  };
}

/** °C a day over the last fortnight by least squares; the season's usual course when fewer than two days were read. */
function surfaceTrend(readings: TimedReading[], at: Date, frame: WaterFrame, fresh: boolean): number {
  const usual = (usualSurface(at, frame) - usualSurface(new Date(at.getTime() - 10 * DAY), frame)) / 10;
  if (!fresh) return usual;
  const points = readings
    .filter((r) => r.row.surface_temperature_c != null && r.at <= at.getTime() && r.at > at.getTime() - 16 * DAY)
    .map((r) => [r.at / DAY, r.row.surface_temperature_c as number]);
  if (!points.length || points[points.length - 1][0] - points[0][0] < 2) return usual;
  const mean = (k: number): number => points.reduce((s, p) => s + p[k], 0) / points.length;
  const [mx, my] = [mean(0), mean(1)];
  const sxx = points.reduce((s, p) => s + (p[0] - mx) ** 2, 0);
  return points.reduce((s, p) => s + (p[0] - mx) * (p[1] - my), 0) / sxx;
}

/** Groups rows of profiles.csv into temperature profiles, sorted by time. Those that cannot be read are left out. */
export function groupProfiles(
  rows: {
    trip: string;
    profile: string;
    time: string;
    depth_m: number;
    temperature_c: number;
    oxygen_mg_l: number | null;
    salinity?: number | null;
  }[],
): DatedProfile[] {
  const groups = new Map<string, typeof rows>();
  for (const row of rows) {
    const key = `${row.trip}\u0000${row.profile}`;
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  return [...groups.values()]
    .map((group) => ({
      at: new Date(Math.min(...group.map((r) => Date.parse(r.time)))),
      samples: tidyProfile(
        group.map((r) => ({ depth: r.depth_m, temperature: r.temperature_c, oxygen: r.oxygen_mg_l, salinity: r.salinity })),
      ),
    }))
    .sort((a, b) => a.at.getTime() - b.at.getTime());
}
