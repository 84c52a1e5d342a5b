import { INTERVAL, selection, type ClassedLooks } from './selection';

/** A smooth curve of selection: how many times as often as expected, by the value of a covariate. */
export interface SelectionCurve {
  x: Float64Array;
  ratio: Float64Array;
  low: Float64Array;
  high: Float64Array;
  /** Width of the smoothing, in the covariate's unit. */
  bandwidth: number;
}

const STEPS = 48;

/**
 * Selection along a covariate: targets seen near a value over those expected there, each look counted by how near it
 * is (a Gaussian kernel on either side of the ratio, as for a relative density: Kelsall & Diggle 1995, Stat. Med. 14).
 * Looks are dealt to fine steps first; each step's neighbourhood is then a class of its own against all.
 * @param values of the covariate, one a look, NaN where not known
 * @returns null with fewer than 20 targets
 */
export function selectionCurve(
  looks: Omit<ClassedLooks, 'classes'>,
  values: ArrayLike<number>,
  options: { within?: 'trip' | 'log'; resamples?: number; seed?: number; interval?: number } = {},
): SelectionCurve | null {
  const n = values.length;
  const seen: number[] = [];
  const all = Float64Array.from(values).filter((v) => !Number.isNaN(v));
  for (let i = 0; i < n; i++) {
    if (Number.isNaN(values[i])) continue;
    for (let k = 0; k < looks.used[i]; k++) seen.push(values[i]);
  }
  if (seen.length < 20) return null;
  all.sort();
  const [low, high] = [all[Math.floor(all.length * 0.01)], all[Math.ceil((all.length - 1) * 0.99)]];
  if (!(high > low)) return null;
  const mean = seen.reduce((a, b) => a + b, 0) / seen.length;
  const spread = Math.sqrt(seen.reduce((s, v) => s + (v - mean) ** 2, 0) / seen.length);
  const width = (high - low) / STEPS;
  // Silverman's rule (1986), by the number of targets; never finer than a step.
  const bandwidth = Math.max(width, 1.06 * spread * seen.length ** -0.2);
  const classes = new Int32Array(n).fill(-1);
  for (let i = 0; i < n; i++)
    if (!Number.isNaN(values[i])) classes[i] = Math.min(STEPS - 1, Math.max(0, Math.floor((values[i] - low) / width)));
  const kernel = Float64Array.from({ length: STEPS * STEPS }, (_, at) =>
    Math.exp(-0.5 * (((Math.floor(at / STEPS) - (at % STEPS)) * width) / bandwidth) ** 2),
  );
  const rows = selection({ ...looks, classes }, { classes: STEPS, ...options, interval: options.interval ?? INTERVAL, kernel });
  const shown = rows.filter((r) => r.looks > 0);
  const pick = (of: (r: (typeof rows)[number]) => number): Float64Array => Float64Array.from(shown, of);
  return {
    x: pick((r) => low + (r.class + 0.5) * width),
    ratio: pick((r) => r.ratio),
    low: pick((r) => r.low),
    high: pick((r) => r.high),
    bandwidth,
  };
}
