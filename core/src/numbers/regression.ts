import { choleskyInPlace, choleskySolve } from './linear-algebra';
import { studentQuantile } from './student';

/** A fitted generalised linear model. */
export interface GlmFit {
  beta: number[];
  /** Standard errors. */
  error: number[];
  iterations: number;
}

/**
 * A generalised linear model of counts (log link) or of yes and no (logit link), by reweighted least squares.
 * @param rows the columns of each row, an intercept among them @param offset added to the linear predictor
 * @throws RangeError when it does not settle, or a column repeats others (the matrix is not positive definite)
 * Source: McCullagh & Nelder 1989, Generalized Linear Models, 2nd ed.
 */
export function fitGlm(rows: number[][], y: number[], family: 'counts' | 'yes or no', offset: number[] = []): GlmFit {
  const n = rows[0].length;
  let beta = new Array<number>(n).fill(0);
  const mean = y.reduce((s, v) => s + v, 0) / y.length;
  let started = false;
  for (let iterations = 1; iterations <= 50; iterations++) {
    const a = new Float64Array(n * n);
    const b = new Float64Array(n);
    rows.forEach((row, i) => {
      const at = offset[i] ?? 0;
      // The first step starts from the data, drawn to their mean, as is usual.
      const guess = family === 'counts' ? Math.log((y[i] + Math.max(mean, 1e-3)) / 2) : Math.log((y[i] + 0.5) / (1.5 - y[i]));
      const eta = started ? row.reduce((s, v, k) => s + v * beta[k], at) : guess;
      const mu = family === 'counts' ? Math.exp(eta) : 1 / (1 + Math.exp(-eta));
      const weight = family === 'counts' ? mu : Math.max(1e-10, mu * (1 - mu));
      const z = eta - at + (y[i] - mu) / weight;
      for (let j = 0; j < n; j++) {
        b[j] += weight * row[j] * z;
        for (let k = 0; k < n; k++) a[j * n + k] += weight * row[j] * row[k];
      }
    });
    started = true;
    choleskyInPlace(a, n);
    const next = Array.from(choleskySolve(a, n, b));
    const moved = Math.max(...next.map((v, k) => Math.abs(v - beta[k])));
    beta = next;
    if (moved < 1e-9 * (1 + Math.max(...beta.map(Math.abs))))
      return {
        beta,
        error: beta.map((_, k) =>
          Math.sqrt(
            choleskySolve(
              a,
              n,
              Float64Array.from(beta, (_, j) => (j === k ? 1 : 0)),
            )[k],
          ),
        ),
        iterations,
      };
  }
  throw new RangeError('the fit does not settle');
}

/** A straight line through points, with the interval of its slope. */
export interface StraightLine {
  intercept: number;
  slope: number;
  low: number;
  high: number;
  /** Share of the spread that it explains. */
  explained: number;
  n: number;
}

/** A line by least squares; null with fewer than three points or none apart. */
export function straightLine(points: [x: number, y: number][], interval = 0.8): StraightLine | null {
  const n = points.length;
  const mean = (k: 0 | 1): number => points.reduce((s, p) => s + p[k], 0) / n;
  const [mx, my] = [mean(0), mean(1)];
  let [sxx, sxy, syy] = [0, 0, 0];
  for (const [x, y] of points) {
    sxx += (x - mx) ** 2;
    sxy += (x - mx) * (y - my);
    syy += (y - my) ** 2;
  }
  if (n < 3 || sxx === 0) return null;
  const slope = sxy / sxx;
  const left = Math.max(0, syy - slope * sxy);
  const half = studentQuantile((1 + interval) / 2, n - 2) * Math.sqrt(left / (n - 2) / sxx);
  return { intercept: my - slope * mx, slope, low: slope - half, high: slope + half, explained: syy > 0 ? 1 - left / syy : 0, n };
}
