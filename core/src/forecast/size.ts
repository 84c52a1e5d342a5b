import type { CellTable } from '../chart';
import { depthScale, designDay, type DesignDay } from './design';
import { choleskyInPlace, choleskySolve } from '../numbers';
import type { SpeciesLook } from './look-likelihood';
import type { Day } from './conditions';
import type { Forecast } from './predict';
import type { SpeciesProfile } from '../species';

/** What the log says of where and when the fish of a species are large ones. */
export interface SizeModel {
  /** Targets of the species whose size was logged, and how many of them were large; odds of the species counted in. */
  sized: number;
  large: number;
  mean: number[];
  spread: number[];
  beta: number[];
  /** Posterior covariance of beta, row by row. */
  covariance: number[];
}

/** The least for a share of large ones to be told. */
const LEAST = { sized: 25, large: 5 };
/** Precision of what a standard step of a covariate does to the log odds: half a unit is expected, not more. */
const PRECISION = 4;
const Z80 = 1.2815515655446004;

/** Depth, hardness, wood, warmth and low light at a cell on a day. */
function covariates(cells: CellTable, i: number, day: DesignDay): number[] {
  const [depth, hard] = [cells.depth[i], cells.hardness[i]];
  return [
    Number.isNaN(depth) ? NaN : depthScale(depth),
    Number.isNaN(hard) ? NaN : hard,
    Math.exp(-Math.min(500, cells.woodDistance[i]) / 30),
    day.surface / 10,
    day.lowLight,
  ];
}

/**
 * Logistic regression of "large" on where and when a target was seen, its coefficients shrunk to none (penalised
 * Newton steps). A target seen in several looks counts once.
 * @returns null where too few sizes were logged, or too few large ones
 */
export function learnSizes(looks: SpeciesLook[], cells: CellTable, species: SpeciesProfile): SizeModel | null {
  const days = new Map<Day, DesignDay>();
  const dayOf = (day: Day): DesignDay => {
    let d = days.get(day);
    if (!d) days.set(day, (d = designDay(species, day)));
    return d;
  };
  const rows: { x: number[]; large: boolean; weight: number }[] = [];
  const counted = new Set<string>();
  for (const { look, cell, day, odds, trip } of looks)
    look.targets.forEach((t, k) => {
      const key = `${trip} ${t.target}`;
      if (t.size == null || !(odds[k] > 0.05) || counted.has(key)) return;
      counted.add(key);
      rows.push({ x: covariates(cells, cell, dayOf(day)), large: t.size === 'large', weight: odds[k] });
    });
  const sized = rows.reduce((s, r) => s + r.weight, 0);
  const large = rows.reduce((s, r) => s + (r.large ? r.weight : 0), 0);
  if (sized < LEAST.sized || large < LEAST.large) return null;
  const p = rows[0].x.length;
  const known = (k: number): number[] => rows.flatMap((r) => (Number.isNaN(r.x[k]) ? [] : [r.x[k]]));
  const mean = Array.from({ length: p }, (_, k) => average(known(k)));
  const spread = Array.from({ length: p }, (_, k) => Math.max(0.05, Math.sqrt(average(known(k).map((v) => (v - mean[k]) ** 2)))));
  const n = p + 1;
  const beta = new Float64Array(n);
  beta[0] = Math.log((large + 0.5) / (sized - large + 0.5));
  const hessian = new Float64Array(n * n);
  for (let step = 0; step < 12; step++) {
    hessian.fill(0);
    const gradient = new Float64Array(n);
    for (let k = 1; k < n; k++) {
      hessian[k * n + k] = PRECISION;
      gradient[k] = -PRECISION * beta[k];
    }
    for (const { x, large: is, weight } of rows) {
      const z = standard(x, mean, spread);
      const s = 1 / (1 + Math.exp(-dot(z, beta)));
      for (let a = 0; a < n; a++) {
        gradient[a] += weight * ((is ? 1 : 0) - s) * z[a];
        for (let b = 0; b <= a; b++) hessian[a * n + b] += weight * s * (1 - s) * z[a] * z[b];
      }
    }
    choleskyInPlace(hessian, n);
    const change = choleskySolve(hessian, n, gradient);
    for (let a = 0; a < n; a++) beta[a] += change[a];
    if (change.every((c) => Math.abs(c) < 1e-6)) break;
  }
  const unit = (k: number): Float64Array => Float64Array.from({ length: n }, (_, a) => (a === k ? 1 : 0));
  const covariance = Array.from({ length: n }, (_, k) => [...choleskySolve(hessian, n, unit(k))]).flat();
  return { sized, large, mean, spread, beta: [...beta], covariance };
}

const average = (values: number[]): number => (values.length ? values.reduce((s, v) => s + v, 0) / values.length : 0);
const dot = (z: ArrayLike<number>, beta: ArrayLike<number>): number => {
  let s = 0;
  for (let k = 0; k < z.length; k++) s += z[k] * beta[k];
  return s;
};
/** Covariates in standard steps behind a one; what is not known stands at its mean. */
const standard = (x: number[], mean: number[], spread: number[]): number[] => [
  1,
  ...x.map((v, k) => (Number.isNaN(v) ? 0 : Math.max(-3, Math.min(3, (v - mean[k]) / spread[k])))),
];

/** A chance of at least one, where so much of what there is counts. */
const thinned = (p: number, share: number): number => -Math.expm1(Math.log1p(-Math.min(0.9999, p)) * share);

/** The chances of large fish alone: see `ofLarge`. */
export function chancesOfLarge(chances: Float32Array, size: SizeModel, cells: CellTable, species: SpeciesProfile, day: Day): Float32Array {
  const today = designDay(species, day);
  return chances.map((p, i) =>
    thinned(p, 1 / (1 + Math.exp(-dot(standard(covariates(cells, i, today), size.mean, size.spread), size.beta)))),
  );
}

/**
 * The forecast of large fish: the chance thinned by the share of the fish at a cell and day that are large, the
 * interval widened by how unsure that share is.
 */
export function ofLarge(forecast: Forecast, size: SizeModel, cells: CellTable, species: SpeciesProfile, day: Day): Forecast {
  const today = designDay(species, day);
  const n = size.beta.length;
  const out: Forecast = { ...forecast, probability: forecast.probability.slice(), low: forecast.low.slice(), high: forecast.high.slice() };
  for (let i = 0; i < cells.count; i++) {
    const z = standard(covariates(cells, i, today), size.mean, size.spread);
    let variance = 0;
    for (let a = 0; a < n; a++) for (let b = 0; b < n; b++) variance += z[a] * z[b] * size.covariance[a * n + b];
    const at = dot(z, size.beta);
    const [share, spread] = [1 / (1 + Math.exp(-at)), Math.sqrt(variance)];
    const p = forecast.probability[i];
    out.probability[i] = thinned(p, share);
    // On the log scale the two are unsure apart from each other.
    const own = spread * (1 - share) * Z80;
    out.low[i] = Math.min(out.probability[i], thinned(p, share) * Math.exp(-Math.hypot(Math.log(p / forecast.low[i]), own)));
    out.high[i] = Math.max(
      out.probability[i],
      Math.min(forecast.high[i], thinned(p, share) * Math.exp(Math.hypot(Math.log(forecast.high[i] / p), own))),
    );
  }
  return out;
}
