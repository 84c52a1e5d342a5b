import { tidyProfile, type ProfileSample } from './profile';
import { seaWaterDensity } from './sea-water';

/** Where salt water begins under fresher, depths in m, practical salinities. */
export interface Halocline {
  /** Of the steepest rise. */
  depth: number;
  /** Between these nine tenths of the rise about it lie. */
  top: number;
  bottom: number;
  /** Mean salinity above and below. */
  above: number;
  below: number;
  /** How much denser the water below is, kg/m³. */
  step: number;
}

/** The least rise of salinity that is spoken of, and what it must add to the density, kg/m³: a judgement. */
const LEAST_RISE = 1;
const LEAST_STEP = 0.7;
/** A rise belongs to the layer for as long as it is at least this share of the steepest. */
const BELONGS = 0.25;

/**
 * The halocline of a profile: the interval in which salinity rises most steeply with depth, with what beside it still rises at a
 * quarter of that. Null where salinity was read at fewer than three depths or rises by less than 1.
 * @param samples of a profile, in any order
 */
export function findHalocline(samples: ProfileSample[]): Halocline | null {
  const read = samples.filter((s) => s.salinity != null);
  const column = read.length ? tidyProfile(read) : [];
  if (column.length < 3) return null;
  const salt = column.map((s) => s.salinity!);
  const slope = column.slice(1).map((s, i) => (salt[i + 1] - salt[i]) / (s.depth - column[i].depth));
  const steepest = slope.indexOf(Math.max(...slope));
  let [from, to] = [steepest, steepest + 1];
  while (from > 0 && slope[from - 1] >= BELONGS * slope[steepest]) from--;
  while (to < slope.length && slope[to] >= BELONGS * slope[steepest]) to++;
  const mean = (part: ProfileSample[], of: (s: ProfileSample) => number): number => part.reduce((sum, s) => sum + of(s), 0) / part.length;
  const [upper, lower] = [column.slice(0, from + 1), column.slice(to)];
  const [above, below] = [mean(upper, (s) => s.salinity!), mean(lower, (s) => s.salinity!)];
  const dense = (s: ProfileSample): number => seaWaterDensity(s.temperature, s.salinity!);
  const step = mean(lower, dense) - mean(upper, dense);
  if (below - above < LEAST_RISE || step < LEAST_STEP) return null;
  /** Depth at which the salinity of the layer is reached. */
  const depthOf = (s: number): number => {
    for (let i = from; i < to; i++)
      if (salt[i + 1] >= s)
        return (
          column[i].depth + (Math.max(0, s - salt[i]) / Math.max(1e-9, salt[i + 1] - salt[i])) * (column[i + 1].depth - column[i].depth)
        );
    return column[to].depth;
  };
  const rise = salt[to] - salt[from];
  return {
    depth: (column[steepest].depth + column[steepest + 1].depth) / 2,
    top: depthOf(salt[from] + 0.05 * rise),
    bottom: depthOf(salt[from] + 0.95 * rise),
    above,
    below,
    step,
  };
}
