import { columnFor, sunHeight, type DatedCast, type WaterColumn } from '../lake';
import { depthWindow, type DepthRule, type DepthWindow, type SpeciesProfile } from '../species';

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
  /** Water level, m above datum, and how fast it changes, m a week; null where nobody read it. */
  level: number | null;
  levelTrend: number | null;
  /** A thermocline set by hand, m; null = from the last cast or modelled. */
  thermoclineSet: { top: number; bottom: number } | null;
}

/** The place the conditions are for. */
export interface WaterFrame {
  latitude: number;
  longitude: number;
  altitude: number;
  deepest: number;
  lengthKm: number;
  /** The water's depth rule; the default one where it has none. */
  rule?: DepthRule;
}

/** Conditions with the water column that follows from them. */
export interface Day {
  conditions: Conditions;
  column: WaterColumn;
  sunHeight: number;
  maxDepth: number;
  rule?: DepthRule;
}

/**
 * The day's water column and sun for given conditions.
 * @param casts of the water: the newest made by `until` tells of the day, the others of the time of year @param until the day's moment if not said
 */
export function dayFor(conditions: Conditions, frame: WaterFrame, casts: DatedCast[] = [], until = conditions.at): Day {
  return {
    conditions,
    column: columnFor({
      surface: conditions.surface,
      at: conditions.at,
      latitude: frame.latitude,
      maxDepth: frame.deepest,
      secchi: conditions.secchi,
      altitude: frame.altitude,
      lengthKm: frame.lengthKm,
      cast: castBefore(casts, until),
      casts,
      thermoclineSet: conditions.thermoclineSet,
    }),
    sunHeight: sunHeight(conditions.at, frame.latitude, frame.longitude),
    maxDepth: frame.deepest,
    rule: frame.rule,
  };
}

/** The newest cast made by then, if any. */
function castBefore(casts: DatedCast[], at: Date): DatedCast | null {
  let found: DatedCast | null = null;
  for (const cast of casts) if (cast.at <= at && (!found || cast.at > found.at)) found = cast;
  return found;
}

/** The depths that a day leaves to a species. */
export const windowOn = (species: SpeciesProfile, { column, conditions, maxDepth, sunHeight: sun, rule }: Day): DepthWindow =>
  depthWindow(species, { column, secchi: conditions.secchi, maxDepth, sunHeight: sun, rule });

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
