/** Cubic B-spline basis on evenly spaced knots; values outside the range are clamped to it. */
export interface SplineSpec {
  low: number;
  high: number;
  count: number;
}

/**
 * The four B-splines that are not zero at a value.
 * @returns index of the first and their four weights (sum 1)
 * Source: de Boor 1978; Eilers & Marx 1996 for the penalised use.
 */
export function splineAt({ low, high, count }: SplineSpec, value: number): [first: number, weights: [number, number, number, number]] {
  const pieces = count - 3;
  const scaled = Math.min(1, Math.max(0, (value - low) / (high - low))) * pieces;
  const piece = Math.min(pieces - 1, Math.floor(scaled));
  const t = scaled - piece;
  const [t2, t3] = [t * t, t * t * t];
  return [piece, [(1 - 3 * t + 3 * t2 - t3) / 6, (4 - 6 * t2 + 3 * t3) / 6, (1 + 3 * t + 3 * t2 - 3 * t3) / 6, t3 / 6]];
}

/** Where each coefficient of a spline has its say (Greville's sites), in the unit of the values. */
export const splineSites = ({ low, high, count }: SplineSpec): number[] =>
  Array.from({ length: count }, (_, k) => low + ((k - 1) / (count - 3)) * (high - low));

/** Value of a spline whose coefficients stand in a list from a position on. */
export function splineValue(spec: SplineSpec, coefficients: ArrayLike<number>, start: number, value: number): number {
  const [first, weights] = splineAt(spec, value);
  return weights.reduce((s, w, k) => s + w * coefficients[start + first + k], 0);
}

/** Where each hat function peaks. */
export const hatSites = ({ low, high, count }: SplineSpec): number[] =>
  Array.from({ length: count }, (_, k) => low + (k / (count - 1)) * (high - low));

/** Value of a sum of hat functions. @param of coefficient of each */
export function hatValue(spec: SplineSpec, of: (k: number) => number, value: number): number {
  const [first, weights] = hatAt(spec, value);
  return weights[0] * of(first) + weights[1] * of(first + 1);
}

/** The two hat functions (linear B-splines) that are not zero at a value: for surfaces, where cubic ones would cost four times as much. */
export function hatAt({ low, high, count }: SplineSpec, value: number): [first: number, weights: [number, number]] {
  const scaled = Math.min(1, Math.max(0, (value - low) / (high - low))) * (count - 1);
  const first = Math.min(count - 2, Math.floor(scaled));
  return [first, [1 - (scaled - first), scaled - first]];
}

/**
 * Second-difference penalty with a little ridge, so that the whole term can shrink to nothing, and with a strong one on
 * its level: what all of a water shares belongs to the intercept, not to every term. Dense, row by row.
 */
export function smoothPenalty(count: number, ridge = 0.05): Float64Array {
  const p = new Float64Array(count * count);
  for (let k = 0; k + 2 < count; k++) {
    const d = [1, -2, 1];
    for (let a = 0; a < 3; a++) for (let b = 0; b < 3; b++) p[(k + a) * count + k + b] += d[a] * d[b];
  }
  for (let i = 0; i < count; i++) p[i * count + i] += ridge;
  for (let i = 0; i < count * count; i++) p[i] += 1 / count;
  return p;
}

/** Ridge penalty. */
export function ridgePenalty(count: number): Float64Array {
  const p = new Float64Array(count * count);
  for (let i = 0; i < count; i++) p[i * count + i] = 1;
  return p;
}
