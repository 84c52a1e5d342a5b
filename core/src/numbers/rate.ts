import { studentQuantile } from './student';

/** A rate from several units (trips), with its interval. */
export interface Rate {
  rate: number;
  /** Limits of the interval; null with fewer than two units, where nothing says how much units differ. */
  low: number | null;
  high: number | null;
  /** Units with effort. */
  n: number;
}

/**
 * Events per effort, with units that differ from each other as the ground for the interval: the ratio estimator.
 * @param units events and effort of each; those without effort count for nothing
 * @param level of the interval, both sides together
 * @returns null without any effort
 * Source: Cochran 1977, Sampling Techniques, 3rd ed., § 6.4; limits on the logarithm, so that none lies below nought.
 * @example rateOf([{ events: 3, effort: 2 }, { events: 1, effort: 4 }]) // rate 0.667
 */
export function rateOf(units: { events: number; effort: number }[], level = 0.8): Rate | null {
  const used = units.filter((u) => u.effort > 0);
  const n = used.length;
  if (!n) return null;
  const [events, effort] = used.reduce(([e, f], u) => [e + u.events, f + u.effort], [0, 0]);
  const rate = events / effort;
  if (n < 2) return { rate, low: null, high: null, n };
  // Without a single event the units do not differ: the rule of three, at this level.
  if (!events) return { rate, low: 0, high: -Math.log((1 - level) / 2) / effort, n };
  const squares = used.reduce((sum, u) => sum + (u.events - rate * u.effort) ** 2, 0);
  const deviation = Math.sqrt((squares * n) / (n - 1)) / effort;
  const factor = Math.exp((studentQuantile((1 + level) / 2, n - 1) * deviation) / rate);
  return { rate, low: rate / factor, high: rate * factor, n };
}
