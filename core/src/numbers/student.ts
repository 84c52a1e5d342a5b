/** ln Γ(x) for x > 0. Source: Lanczos 1964, g = 5, six terms. */
function lnGamma(x: number): number {
  const c = [76.1800917294715, -86.5053203294168, 24.01409824083091, -1.231739572450155, 0.001208650973866179, -0.000005395239384953];
  let sum = 1.00000000019001;
  c.forEach((v, j) => (sum += v / (x + 1 + j)));
  const t = x + 5.5;
  return Math.log((2.506628274631 * sum) / x) - t + (x + 0.5) * Math.log(t);
}

/** Regularised incomplete beta function by its continued fraction. Source: Abramowitz & Stegun 26.5.8, Lentz's method. */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log(1 - x)) / a;
  const tiny = 1e-300;
  let [c, d, f] = [1, 0, 1];
  for (let i = 0; i <= 300; i++) {
    const m = i >> 1;
    const n =
      i === 0
        ? 1
        : i % 2 === 0
          ? (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m))
          : -((a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 + n * d;
    d = 1 / (Math.abs(d) < tiny ? tiny : d);
    c = 1 + n / c;
    if (Math.abs(c) < tiny) c = tiny;
    f *= c * d;
    if (Math.abs(1 - c * d) < 1e-12) break;
  }
  return front * (f - 1);
}

/** Chance that a Student t with `df` degrees of freedom lies farther from 0 than `t`, to either side. */
export const studentTail = (t: number, df: number): number => incompleteBeta(df / (df + t * t), df / 2, 0.5);

/** Standard normal quantile. Source: Acklam's rational approximation, relative error below 1.2e−9. */
export function normalQuantile(p: number): number {
  const a = [-39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716, 2.506628277459239];
  const b = [-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572, 1];
  const c = [-0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968, 2.938163982698783];
  const d = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416, 1];
  const poly = (k: number[], x: number): number => k.reduce((s, v) => s * x + v, 0);
  if (p <= 0 || p >= 1) return p <= 0 ? -Infinity : Infinity;
  if (p < 0.02425) {
    const q = Math.sqrt(-2 * Math.log(p));
    return poly(c, q) / poly(d, q);
  }
  if (p > 1 - 0.02425) return -normalQuantile(1 - p);
  const q = p - 0.5;
  return (poly(a, q * q) * q) / poly(b, q * q);
}

const quantiles = new Map<string, number>();

/** Quantile of Student's t, by bisection on its tail; degrees of freedom are taken to the tenth. @param p 0–1 @param df at least 1 */
export function studentQuantile(p: number, df: number): number {
  if (p === 0.5) return 0;
  const tenths = Math.max(10, Math.round(10 * Math.min(df, 1000)));
  const key = `${p} ${tenths}`;
  const known = quantiles.get(key);
  if (known !== undefined) return known;
  const tail = 2 * Math.min(p, 1 - p);
  let [low, high] = [0, 10];
  while (studentTail(high, tenths / 10) > tail) high *= 2;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (studentTail(middle, tenths / 10) > tail) low = middle;
    else high = middle;
  }
  const found = p < 0.5 ? -high : high;
  quantiles.set(key, found);
  return found;
}
