import { oxygenHoldsTo, temperatureAt, usableLayer, type WaterColumn } from '../lake';
import type { SpeciesProfile } from './profile';

export interface WindowInputs {
  column: WaterColumn;
  secchi: number;
  maxDepth: number;
  /** Sun height, degrees; light-shy fish come up when it is low. */
  sunHeight: number;
  rule?: DepthRule;
}

/** Depths, m, that can hold a species, with the reason of each edge. `empty` when nothing is left. */
export interface DepthWindow {
  top: number;
  bottom: number;
  topReason: string;
  bottomReason: string;
  empty: boolean;
}

/** The depth rule of a water; its numbers can be edited. */
export interface DepthRule {
  /** The light limit is `lightBase` + `lightFactor` × Secchi, m. */
  lightBase: number;
  lightFactor: number;
  /** Mixed water clearer than this has no limit, m. */
  clearFrom: number;
}

export const DEFAULT_RULE: DepthRule = { lightBase: 2, lightFactor: 4, clearFrom: 3 };

/** Reads a water's rules as stored; what is missing or no sensible number is the default. */
export function readDepthRule(rules: unknown): DepthRule {
  const given = (rules ?? {}) as Partial<Record<keyof DepthRule, unknown>>;
  const number = (key: keyof DepthRule): number => {
    const v = given[key];
    return typeof v === 'number' && v >= 0 && v <= 100 ? v : DEFAULT_RULE[key];
  };
  return { lightBase: number('lightBase'), lightFactor: number('lightFactor'), clearFrom: number('clearFrom') };
}

/** Depth of the light limit for sight-feeding warm- and cool-water fish, m. */
export const lightLimit = (secchi: number, rule: DepthRule = DEFAULT_RULE): number => rule.lightBase + rule.lightFactor * secchi;

const isCold = (s: SpeciesProfile): boolean => s.guild === 'cold';

/** The depths that light, temperature, oxygen and the depth rule leave to a species. */
export function depthWindow(s: SpeciesProfile, { column, secchi, maxDepth, sunHeight, rule = DEFAULT_RULE }: WindowInputs): DepthWindow {
  let [top, topReason] = [0, 'nothing keeps it down'];
  if (s.light === 'shy' && sunHeight > 6) {
    // About a fifth of the surface light under a clear sky, less under a low sun.
    top = Math.min(maxDepth * 0.6, (secchi / 1.7) * Math.log(5) * Math.min(1, sunHeight / 30));
    topReason = `light at ${secchi.toFixed(1)} m clarity keeps it below ${top.toFixed(1)} m while the sun is up`;
  }
  const limits: [depth: number, reason: string][] = [[maxDepth, 'the bottom']];
  if (isCold(s)) {
    // Their layer lies between their upper temperature and their least oxygen; they have no light limit.
    const layer = usableLayer(column.samples, { upper: s.upperAvoidance, leastOxygen: s.leastOxygen }, maxDepth);
    if (!layer)
      return {
        top: maxDepth,
        bottom: maxDepth,
        topReason: `no water is both below ${s.upperAvoidance} °C and above ${s.leastOxygen} mg/l of oxygen`,
        bottomReason: 'the squeeze leaves nothing',
        empty: true,
      };
    if (layer.top > top) [top, topReason] = [layer.top, `water above ${layer.top.toFixed(1)} m is warmer than ${s.upperAvoidance} °C`];
    if (layer.bottom < maxDepth - 0.06)
      limits.push([layer.bottom, `below ${layer.bottom.toFixed(1)} m there is less than ${s.leastOxygen} mg/l of oxygen`]);
  } else {
    const mixedAndClear = !column.thermocline && secchi > rule.clearFrom;
    if (s.place !== 'bottom' && !mixedAndClear)
      limits.push([
        lightLimit(secchi, rule),
        `light for sight-feeding ends at ${lightLimit(secchi, rule).toFixed(1)} m (${rule.lightBase} m + ${rule.lightFactor} × clarity)`,
      ]);
    const poorBelow = column.thermocline && oxygenHoldsTo(column.samples, s.leastOxygen) != null;
    if (column.thermocline && poorBelow)
      limits.push([
        column.thermocline.depth,
        `the thermocline is steepest at ${column.thermocline.depth.toFixed(1)} m, with little oxygen below`,
      ]);
  }
  const oxygen = oxygenHoldsTo(column.samples, s.leastOxygen);
  if (oxygen != null) limits.push([oxygen, `below ${oxygen.toFixed(1)} m there is less than ${s.leastOxygen} mg/l of oxygen`]);
  const [bottom, bottomReason] = limits.reduce((a, b) => (b[0] < a[0] ? b : a));
  top = Math.min(top, maxDepth);
  return { top, bottom, topReason, bottomReason, empty: bottom - top < 0.05 };
}

/**
 * The depth a species is first looked for, before any log: light-shy fish low in their window, sight-feeders
 * in its upper half, all of them deeper in cold water.
 */
export function firstGuessDepth(s: SpeciesProfile, window: DepthWindow, column: WaterColumn): number {
  const surface = temperatureAt(column.samples, 0);
  const share = s.light === 'shy' ? 0.7 : s.place === 'cover' ? 0.35 : 0.5;
  const cold = Math.min(1, Math.max(0, (s.preferred[0] - surface) / 10));
  // Not deeper than 12 m at first, unless their own water only begins below that.
  const reach = Math.min(window.bottom, Math.max(12, window.top));
  return window.top + (reach - window.top) * Math.min(0.95, share + 0.25 * cold);
}
