import type { CellTable } from '../chart';
import type { Look } from '../logbook';
import type { SpeciesProfile } from '../species';
import { CELL } from '../geo';
import { Design, designDay, EFFORT_KINDS, makeDesign, SparseRow, type DesignDay, type DesignSpec } from './design';
import { choleskyInPlace, choleskySolve, inverseEntry, invertFactor } from './linear-algebra';
import type { Day } from './conditions';
import { holdingObservations, type HoldingObservation } from './holding-depth';

/** A look ready for fitting: its cell in the chart's table and the day it was made on. */
export interface FitLook {
  look: Look;
  cell: number;
  trip: number;
  day: Day;
}

/** A fit of one species on one water. */
export interface Model {
  species: string;
  spec: DesignSpec;
  beta: Float64Array;
  /** Posterior covariance of all columns but the trips', n×n. */
  covariance: Float32Array;
  lambda: Record<string, number>;
  /** Spread between trips, standard deviation on the log scale. */
  tripSpread: number;
  holding: HoldingObservation[];
  stats: ModelStats;
}

export interface ModelStats {
  looks: number;
  trips: number;
  contacts: number;
  from: number | null;
  to: number | null;
  iterations: number;
  fittedMs: number;
}

/** Targets a cell-sized scan shows where nothing is known: the intercepts' prior, on the log scale. */
const BASE: Record<(typeof EFFORT_KINDS)[number], number> = { scan: Math.log(0.04), fish: Math.log(0.01), troll: Math.log(0.0005) };
const BASE_PRECISION = 0.15;
/**
 * What a blank of no minutes ("Nothing here") is worth, in scans of its circle: the angler looked through the whole
 * picture and was sure. It is no fishing, so it speaks through the likelihood of scans.
 */
const BLANK_SCANS = 2;
/** The least scanned area that is taken at its word, m². */
const LEAST_AREA = 30;

/** The least certain a single target has to be to count as seen. */
const LEAST_CONFIDENCE = 0.5;

/** Whether a look saw the species, by name as profiles know it. */
export function sawSpecies(look: Look, isSpecies: (name: string) => boolean): boolean {
  return look.targets.some(
    (t) => t.kind === 'fish' && t.species != null && isSpecies(t.species) && (t.confidence ?? 1) >= LEAST_CONFIDENCE,
  );
}

const isBlank = (look: Look): boolean => look.kind === 'fish' && look.effort === 0;

/** The kind of effort whose likelihood a look speaks through. */
const likelihoodOf = (look: Look): number => EFFORT_KINDS.indexOf(isBlank(look) ? 'scan' : look.kind);

/** Log of a look's effort in the unit of its likelihood: cells scanned, rod-minutes, metres trolled. */
export function logEffort(look: Look): number {
  if (isBlank(look)) return Math.log((BLANK_SCANS * Math.max(1, look.area)) / (CELL * CELL));
  if (look.kind === 'scan') return Math.log(Math.max(LEAST_AREA, look.effort) / (CELL * CELL));
  return Math.log(Math.max(look.kind === 'troll' ? 1 : 0.05, look.effort));
}

/** What a fit is at a moment of its search. */
interface State {
  beta: Float64Array;
  base: Float64Array;
  spec: DesignSpec;
  penalties: Float64Array[];
  lambda: number[];
}

/** Most rounds of the search for the terms' precisions. */
const ROUNDS = 14;

export interface FitOptions {
  onProgress?: (share: number) => void;
  /** Called between iterations; true stops the fit with a CancelledError. */
  cancelled?: () => boolean;
  now?: () => number;
}

export class CancelledError extends Error {}

interface Problem {
  n: number;
  rows: Int32Array;
  index: Int32Array;
  value: Float64Array;
  offset: Float64Array;
  seen: Uint8Array;
}

function assemble(design: Design, looks: FitLook[], days: DesignDay[], isSpecies: (name: string) => boolean): Problem {
  const row = new SparseRow();
  const rows = new Int32Array(looks.length + 1);
  const index: number[] = [];
  const value: number[] = [];
  const offset = new Float64Array(looks.length);
  const seen = new Uint8Array(looks.length);
  looks.forEach(({ look, cell, trip }, k) => {
    design.fill(row, cell, days[k], likelihoodOf(look), trip);
    for (let j = 0; j < row.n; j++) {
      index.push(row.index[j]);
      value.push(row.value[j]);
    }
    rows[k + 1] = index.length;
    offset[k] = logEffort(look) + design.prior(cell, days[k]);
    seen[k] = sawSpecies(look, isSpecies) ? 1 : 0;
  });
  return { n: looks.length, rows, index: Int32Array.from(index), value: Float64Array.from(value), offset, seen };
}

/** Bounds of a term's precision; the place term always keeps some freedom, since places do last. */
const LOOSEST: Record<string, number> = { place: 0.25, trip: 0.2 };
const TIGHTEST: Record<string, number> = { place: 6 };

/**
 * Fits P(seen) = 1 − exp(−exp(prior + Xβ + log effort)) by penalised iteratively reweighted least squares; each
 * term's precision by the generalised Fellner–Schall update (Wood & Fasiolo 2017, Biometrics 73), so that what the
 * log does not support shrinks to the schools.
 * @param isSpecies whether a name in the log means this species
 */
export function fitModel(
  species: SpeciesProfile,
  cells: CellTable,
  unsorted: FitLook[],
  isSpecies: (name: string) => boolean,
  options: FitOptions = {},
): Model {
  const now = options.now ?? (() => 0);
  const started = now();
  // By place: neighbouring looks touch the same part of the information matrix. The order does not matter otherwise.
  const looks = [...unsorted].sort((a, b) => a.cell - b.cell || a.look.from - b.look.from);
  const trips = looks.reduce((most, l) => Math.max(most, l.trip + 1), 0);
  const surfaces = looks.map((l) => l.day.conditions.surface);
  const range: [number, number] = surfaces.length
    ? [surfaces.reduce((a, b) => Math.min(a, b)), surfaces.reduce((a, b) => Math.max(a, b))]
    : [4, 24];
  const spec = makeDesign(cells, new Set(looks.map((l) => l.cell)), trips, range);
  const design = new Design(spec, cells);
  const dayCache = new Map<Day, DesignDay>();
  const days = looks.map((l) => {
    let d = dayCache.get(l.day);
    if (!d) dayCache.set(l.day, (d = designDay(species, l.day)));
    return d;
  });
  const problem = assemble(design, looks, days, isSpecies);
  const p = spec.columns;
  const base = Float64Array.from({ length: p }, (_, i) => (i < EFFORT_KINDS.length ? BASE[EFFORT_KINDS[i]] : 0));
  const beta = Float64Array.from(base);
  const penalties = spec.terms.map((t) => design.penaltyOf(t));
  const lambda: number[] = spec.terms.map((t) => (t.name === 'place' || t.name === 'trip' ? 2 : 20));

  const state: State = { beta, base, spec, penalties, lambda };
  let iterations = 0;
  // The information costs far more than the gradient, and changes little once the fit has settled: it is renewed in
  // the first steps, then seldom; steps with an older one still end at the same mode.
  const settle = (info: Float64Array, steps: number, near: number): Float64Array => {
    const factor = factorOf(info, state);
    for (let k = 0; k < steps; k++) {
      iterations++;
      if (step(problem, state, factor) < near) break;
    }
    return factor;
  };
  let info = information(problem, beta, p);
  for (let k = 0; k < 5; k++) {
    const factor = factorOf(info, state);
    iterations++;
    const moved = step(problem, state, factor);
    info = information(problem, beta, p);
    if (moved < 0.1) break;
  }
  for (let round = 0; looks.length && round < ROUNDS; round++) {
    if (options.cancelled?.()) throw new CancelledError('the fit was cancelled');
    if (round === 2 || round === 6) info = information(problem, beta, p);
    const inverse = invertFactor(settle(info, 4, 0.02), p);
    let moved = 0;
    spec.terms.forEach((term, k) => {
      if (!term.count) return;
      const { next, freedom } = fellnerSchall(term, penalties[k], lambda[k], beta, inverse, p);
      // A term that has all but vanished may go on vanishing; nothing waits for it.
      if (freedom > 0.3) moved = Math.max(moved, Math.abs(Math.log(next / lambda[k])));
      lambda[k] = next;
    });
    options.onProgress?.((round + 1) / (ROUNDS + 1));
    if (moved < 0.15) break;
  }
  settle(info, 6, 1e-3);
  const inverse = invertFactor(settle(information(problem, beta, p), 10, 1e-6), p);
  const kept = p - trips;
  const covariance = new Float32Array(kept * kept);
  for (let i = 0; i < kept; i++)
    for (let j = 0; j <= i; j++) covariance[i * kept + j] = covariance[j * kept + i] = inverseEntry(inverse, p, i, j);
  const tripTerm = spec.terms.findIndex((t) => t.name === 'trip');
  return {
    species: species.name,
    spec,
    beta,
    covariance,
    lambda: Object.fromEntries(spec.terms.map((t, k) => [t.name, lambda[k]])),
    tripSpread: trips > 1 ? 1 / Math.sqrt(lambda[tripTerm]) : 0.6,
    holding: holdingObservations(looks, cells, isSpecies),
    stats: {
      looks: looks.length,
      trips,
      contacts: looks.reduce(
        (s, l) => s + l.look.targets.filter((t) => t.kind === 'fish' && t.species != null && isSpecies(t.species)).length,
        0,
      ),
      from: looks.length ? looks.reduce((a, l) => Math.min(a, l.look.from), Infinity) : null,
      to: looks.length ? looks.reduce((a, l) => Math.max(a, l.look.to), -Infinity) : null,
      iterations,
      fittedMs: Math.round(now() - started),
    },
  };
}

function fellnerSchall(
  term: { name: string; start: number; count: number },
  penalty: Float64Array,
  lambda: number,
  beta: Float64Array,
  inverse: Float64Array,
  p: number,
): { next: number; freedom: number } {
  let trace = 0;
  let square = 0;
  const { start, count } = term;
  for (let a = 0; a < count; a++)
    for (let b = 0; b < count; b++) {
      const s = penalty[a * count + b];
      if (s === 0) continue;
      trace += s * inverseEntry(inverse, p, start + a, start + b);
      square += s * beta[start + a] * beta[start + b];
    }
  const freedom = Math.max(1e-6, count - lambda * trace);
  const next = freedom / Math.max(1e-9, square);
  const bounded = Math.min(TIGHTEST[term.name] ?? 1e5, Math.max(LOOSEST[term.name] ?? 0.05, next));
  // No more than a factor of eight a round: the update may overshoot when a term is all but gone.
  return { next: Math.min(lambda * 8, Math.max(lambda / 8, bounded)), freedom };
}

/** A row's log rate and its derivatives of the log-likelihood: first, and the expected second. */
function derivatives(problem: Problem, beta: Float64Array, k: number): [score: number, weight: number] {
  const { rows, index, value } = problem;
  let eta = problem.offset[k];
  for (let j = rows[k]; j < rows[k + 1]; j++) eta += value[j] * beta[index[j]];
  const mu = Math.exp(Math.min(6, Math.max(-25, eta)));
  const miss = Math.exp(-mu);
  const hit = -Math.expm1(-mu);
  return [problem.seen[k] ? (mu * miss) / hit : -mu, Math.max(1e-9, (mu * mu * miss) / hit)];
}

/** Expected information of the looks alone, lower triangle. Rows hold their columns in ascending order. */
function information(problem: Problem, beta: Float64Array, p: number): Float64Array {
  const info = new Float64Array(p * p);
  const { n, rows, index, value } = problem;
  for (let k = 0; k < n; k++) {
    const weight = derivatives(problem, beta, k)[1];
    const [from, to] = [rows[k], rows[k + 1]];
    for (let a = from; a < to; a++) {
      const line = index[a] * p;
      const wa = weight * value[a];
      for (let b = from; b <= a; b++) info[line + index[b]] += wa * value[b];
    }
  }
  return info;
}

/** Gradient of the penalised log-likelihood. */
function gradientAt(problem: Problem, { beta, base, spec, penalties, lambda }: State): Float64Array {
  const gradient = new Float64Array(spec.columns);
  const { n, rows, index, value } = problem;
  for (let k = 0; k < n; k++) {
    const score = derivatives(problem, beta, k)[0];
    for (let a = rows[k]; a < rows[k + 1]; a++) gradient[index[a]] += score * value[a];
  }
  for (let i = 0; i < EFFORT_KINDS.length; i++) gradient[i] -= BASE_PRECISION * (beta[i] - base[i]);
  spec.terms.forEach((term, t) => {
    for (let a = 0; a < term.count; a++)
      for (let b = 0; b < term.count; b++) {
        const s = penalties[t][a * term.count + b];
        if (s !== 0) gradient[term.start + a] -= lambda[t] * s * beta[term.start + b];
      }
  });
  return gradient;
}

/** Cholesky factor of the information with the penalties. */
function factorOf(info: Float64Array, { spec, penalties, lambda }: State): Float64Array {
  const p = spec.columns;
  const hessian = Float64Array.from(info);
  for (let i = 0; i < EFFORT_KINDS.length; i++) hessian[i * p + i] += BASE_PRECISION;
  spec.terms.forEach((term, t) => {
    for (let a = 0; a < term.count; a++)
      for (let b = 0; b <= a; b++) hessian[(term.start + a) * p + term.start + b] += lambda[t] * penalties[t][a * term.count + b];
  });
  choleskyInPlace(hessian, p);
  return hessian;
}

/** One step toward the mode. @returns the longest change of a coefficient */
function step(problem: Problem, state: State, factor: Float64Array): number {
  const change = choleskySolve(factor, state.spec.columns, gradientAt(problem, state));
  const longest = change.reduce((m, s) => Math.max(m, Math.abs(s)), 0);
  const scale = longest > 2 ? 2 / longest : 1;
  for (let i = 0; i < change.length; i++) state.beta[i] += scale * change[i];
  return longest;
}
