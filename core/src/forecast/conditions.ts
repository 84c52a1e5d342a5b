import {
  columnFor,
  coolingHalf,
  courseOfLatitude,
  findHalocline,
  seasonDay,
  sortOf,
  sunHeight,
  waterYear,
  type DatedProfile,
  type Halocline,
  type ProfileSample,
  type UsualCourse,
  type WaterColumn,
  type WaterSort,
  type WaterYear,
} from '../lake';
import { SEA_SALINITY } from '../sonar';
import { streamOf, tideOf, tideState, type StreamNow, type TideRecord } from '../tide';
import { depthWindow, type DepthRule, type DepthWindow, type SpeciesProfile, type WindowInputs } from '../species';

/** What the Strip holds: the conditions that everything else is computed for. */
export interface Conditions {
  at: Date;
  /** Surface temperature °C and its trend °C a day. */
  surface: number;
  trend: number;
  /** Secchi depth, m. */
  secchi: number;
  windFrom: number;
  windSpeed: number;
  /** Share of the sky under cloud, 0–1; null or missing where nobody saw. */
  cloud?: number | null;
  /** Water level, m above datum, and how fast it changes, m a week; null where nobody read it. */
  level: number | null;
  levelTrend: number | null;
  /** How the water runs, as it was read; null or missing where nobody did. */
  current?: StreamNow | null;
  /** Practical salinity as it was read lately; null or missing where nobody did. */
  salinity?: number | null;
  /** A thermocline set by hand, m; null = from the last profile or modelled. */
  thermoclineSet: { top: number; bottom: number } | null;
}

/** The place the conditions are for. */
export interface WaterFrame {
  latitude: number;
  longitude: number;
  altitude: number;
  deepest: number;
  lengthKm: number;
  /** What it is, in its owner's words: a river is mixed. */
  kind?: string | null;
  /** The usual course of its surface, from its own readings; the latitude's where it has none. */
  course?: UsualCourse;
  /** What its gauge tells where the water stands at the datum of its chart, m; 0 where it is not said. */
  levelBase?: number;
  /** Its tide, where one is known: the level is then that of the moment. */
  tide?: TideRecord | null;
  /** The water's depth rule; the default one where it has none. */
  rule?: DepthRule;
}

/** For how long the salt of a profile speaks for the day, ms: tide and rain move it. */
const SALTY_FOR_MS = 3 * 86_400_000;

/** The usual course of a water's surface through the year. */
export const courseOf = ({ course, latitude, altitude }: WaterFrame): UsualCourse => course ?? courseOfLatitude(latitude, altitude);

/** When a water forms layers, and what lies below them. */
export const waterYearOf = (frame: WaterFrame): WaterYear =>
  waterYear(courseOf(frame), { maxDepth: frame.deepest, lengthKm: frame.lengthKm, kind: frame.kind ?? null });

/** Conditions with the water column that follows from them. */
export interface Day {
  conditions: Conditions;
  column: WaterColumn;
  sunHeight: number;
  /** Practical salinity: read lately, else that of the sea on a coast, 0 elsewhere. */
  salinity: number;
  /** The halocline of a profile made lately; null where there is none. */
  halocline: Halocline | null;
  /** The deepest water of the day, m. */
  maxDepth: number;
  /** How far the water stands above the datum of its chart, m; 0 where nobody read it. */
  level: number;
  /** How the water runs at the moment, by its tide, else as it was read; null where that is not known. */
  stream: StreamNow | null;
  /** Hours from the nearest high water, and from neaps (0) to springs (1) where that is known; null where no tide is known. */
  tide: { fromHigh: number; springs: number | null } | null;
  /** What the water is. */
  sort: WaterSort;
  /** Day of the season: 172 is near midsummer north and south. */
  seasonDay: number;
  rule?: DepthRule;
}

/**
 * The day's water column and sun for given conditions.
 * @param profiles of the water: the newest made by `until` tells of the day, the others of the time of year @param until the day's moment if not said
 */
export function dayFor(conditions: Conditions, frame: WaterFrame, profiles: DatedProfile[] = [], until = conditions.at): Day {
  const level = conditions.level === null ? 0 : conditions.level - (frame.levelBase ?? 0);
  const maxDepth = Math.max(0.5, frame.deepest + level);
  const tide = tideOf(frame.tide);
  const state = tide && tideState(tide, conditions.at.getTime());
  const sort = sortOf(frame.kind ?? null, tide !== null);
  const profile = latestBefore(profiles, until);
  const salt = profile && conditions.at.getTime() - profile.at.getTime() < SALTY_FOR_MS ? profile.samples : [];
  const salinity = conditions.salinity ?? salt.find((s) => s.salinity != null)?.salinity ?? (sort === 'coast' ? SEA_SALINITY : 0);
  return {
    conditions,
    column: columnFor({
      surface: conditions.surface,
      at: conditions.at,
      latitude: frame.latitude,
      maxDepth,
      secchi: conditions.secchi,
      altitude: frame.altitude,
      lengthKm: frame.lengthKm,
      kind: frame.kind,
      course: courseOf(frame),
      profile,
      profiles,
      salinity,
      thermoclineSet: conditions.thermoclineSet,
    }),
    sunHeight: sunHeight(conditions.at, frame.latitude, frame.longitude),
    salinity,
    halocline: sort === 'lake' ? null : haloclineOf(salt),
    maxDepth,
    level,
    stream: streamOf(frame.tide, conditions.at.getTime(), state) ?? conditions.current ?? null,
    tide: state && state.fromHigh !== null ? { fromHigh: state.fromHigh, springs: state.springs } : null,
    sort,
    seasonDay: seasonDay(conditions.at, frame.latitude),
    rule: frame.rule,
  };
}

const haloclines = new WeakMap<ProfileSample[], Halocline | null>();

/** Kept with the profile: a log's looks share it. */
function haloclineOf(samples: ProfileSample[]): Halocline | null {
  let found = haloclines.get(samples);
  if (found === undefined) haloclines.set(samples, (found = findHalocline(samples)));
  return found;
}

/** The newest profile made by then, if any. */
function latestBefore(profiles: DatedProfile[], at: Date): DatedProfile | null {
  let found: DatedProfile | null = null;
  for (const profile of profiles) if (profile.at <= at && (!found || profile.at > found.at)) found = profile;
  return found;
}

/** Whether a species spawns on a day, by the temperature alone: rising or falling through its range. */
export function spawnsOn({ spawning }: SpeciesProfile, { conditions, seasonDay: day }: Day): boolean {
  if (!spawning || (spawning.direction === 'falling') !== coolingHalf(day)) return false;
  return conditions.surface >= spawning.from && conditions.surface <= spawning.to;
}

/** What a window is worked out from on a day. @param spawning where the stage of the season is known, else by the day's temperature */
export const windowInputs = (species: SpeciesProfile, day: Day, spawning = spawnsOn(species, day)): WindowInputs => ({
  column: day.column,
  secchi: day.conditions.secchi,
  maxDepth: day.maxDepth,
  sunHeight: day.sunHeight,
  spawning,
  cloud: day.conditions.cloud ?? null,
  rule: day.rule,
});

const windows = new WeakMap<Day, Map<SpeciesProfile, DepthWindow>>();

/** The depths that suit a species on a day. Kept with the day: a log's looks share their days. */
export function windowOn(species: SpeciesProfile, day: Day, spawning?: boolean): DepthWindow {
  if (spawning !== undefined) return depthWindow(species, windowInputs(species, day, spawning));
  let kept = windows.get(day);
  if (!kept) windows.set(day, (kept = new Map()));
  let window = kept.get(species);
  if (!window) kept.set(species, (window = depthWindow(species, windowInputs(species, day))));
  return window;
}

/** Longest side of the water's cells, km: the effective length for its thermocline. */
export function frameLength(columns: Int32Array, rows: Int32Array): number {
  let [c0, c1, r0, r1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < columns.length; i++) {
    c0 = Math.min(c0, columns[i]);
    c1 = Math.max(c1, columns[i]);
    r0 = Math.min(r0, rows[i]);
    r1 = Math.max(r1, rows[i]);
  }
  return columns.length ? Math.max(0.1, (Math.hypot(c1 - c0, r1 - r0) * 25) / 1000) : 0.1;
}
