import type { CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import { DayTotal, stayingShift } from './day-total';
import { borrowedBase, type Borrowed } from './borrow';
import { CELL } from '../geo';
import { Design, designDay, EFFORT_KINDS, makeDesign, viewUses, type DesignDay, type DesignSpec, type TermName } from './design';
import { choleskyInPlace, choleskySolve, inverseEntry, invertFactor } from './linear-algebra';
import { chance } from './predict';
import type { Day } from './conditions';
import {
  assemble,
  dispersionOf,
  information,
  likelihoodOf,
  logEffort,
  logRates,
  scoreOf,
  type Problem,
  type SpeciesLook,
} from './look-likelihood';
import { learnToday, type DayLook, type TodayModel } from './today';
import { learnSizes, type SizeModel } from './size';
import { holdingObservations, type HoldingObservation } from './holding-depth';

/** A fit of one species on one water. */
export interface Model {
  /** The species as it was known then, its schools as they were set: what is forecast rests on the same. */
  profile: SpeciesProfile;
  spec: DesignSpec;
  beta: Float64Array;
  /** Posterior covariance of all columns but the trips', n×n. */
  covariance: Float32Array;
  lambda: Record<string, number>;
  /** Spread between trips, standard deviation on the log scale. */
  tripSpread: number;
  /** Log of the mean rate over the water on the log's days, which other days are drawn to; null without a log. */
  usualTotal: number | null;
  holding: HoldingObservation[];
  /** How what was seen earlier on a day moves the rest of it. */
  today: TodayModel;
  /** Where and when they are large; null where too few sizes were logged. */
  size: SizeModel | null;
  stats: ModelStats;
}

export interface ModelStats {
  looks: number;
  trips: number;
  /** Contacts that were of the species, as the sum of their odds. */
  contacts: number;
  from: number | null;
  to: number | null;
  iterations: number;
  fittedMs: number;
  /** How much more looks of one place on one trip agree than chance has it; 1 where they do not. */
  dispersion: number;
  /** What the fit started from beside the schools. */
  borrowed: { water: string; trips: number; contacts: number } | null;
}

/** Targets a cell-sized scan shows where nothing is known: the intercepts' prior, on the log scale. */
const BASE: Record<(typeof EFFORT_KINDS)[number], number> = { scan: Math.log(0.012), fish: Math.log(0.005), troll: Math.log(0.0003) };
const BASE_PRECISION = 4;
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
  /** What was learned on another water, to start from. */
  borrowed?: Borrowed | null;
  /** Leaves the places and trips out, and is content with a rougher fit: how a species likes depth, bottom and day. */
  likingOnly?: boolean;
}

export class CancelledError extends Error {}

/** Bounds of a term's precision; the place term always keeps some freedom, since places do last. */
const LOOSEST: Record<string, number> = { place: 0.25, trip: 0.2 };
const TIGHTEST: Record<string, number> = { place: 6 };
/** What is expected of a term's precision before any log, about the schools or what was borrowed, and how many coefficients' worth that counts for. */
const EXPECTED: Record<TermName, number> = {
  schools: 5,
  'depth by temperature': 1,
  season: 1,
  'depth by trend': 1.5,
  'depth by sun': 2,
  'bottom by temperature': 1.5,
  thermocline: 7.5,
  light: 7.5,
  wind: 3,
  detection: 3,
  depth: 20,
  hardness: 7.5,
  'position near': 7.5,
  'position wide': 7.5,
  slope: 7.5,
  cover: 1.5,
  edge: 2,
  place: 1,
  trip: 4,
};
/** Where the search for a precision begins, if not at what is expected: where logs have mostly led it. */
const START: Partial<Record<TermName, number>> = { depth: 2, place: 2, 'depth by temperature': 0.7, trip: 6 };
/** Trips at which the log has half its say against the schools. */
const FULL_SAY = 4;
const EXPECTED_WORTH = 1.5;

/**
 * Fits P(seen) = 1 − exp(−exp(prior + Xβ + log effort)) by penalised iteratively reweighted least squares; each
 * term's precision by the generalised Fellner–Schall update (Wood & Fasiolo 2017, Biometrics 73), so that what the
 * log does not support shrinks to the schools.
 * Looks of one place on one trip see the same packs: what a look counts for is divided by how much more they agree
 * than chance has it (the dispersion of counts by trip and 300 m square).
 */
export function fitModel(species: SpeciesProfile, cells: CellTable, unsorted: SpeciesLook[], options: FitOptions = {}): Model {
  const now = options.now ?? (() => 0);
  const started = now();
  // By place: neighbouring looks touch the same part of the information matrix. The order does not matter otherwise.
  const looks = [...unsorted].sort((a, b) => a.cell - b.cell || a.look.from - b.look.from);
  const { likingOnly = false } = options;
  const trips = likingOnly ? 0 : looks.reduce((most, l) => Math.max(most, l.trip + 1), 0);
  const spec = makeDesign(cells, new Set(likingOnly ? [] : looks.map((l) => l.cell)), trips, likingOnly ? [] : viewUses(looks, cells));
  const design = new Design(spec, cells);
  const dayCache = new Map<Day, DesignDay>();
  const days = looks.map((l) => {
    let d = dayCache.get(l.day);
    if (!d) dayCache.set(l.day, (d = designDay(species, l.day)));
    return d;
  });
  const problem = assemble(design, looks, days, !likingOnly);
  const p = spec.columns;
  const base = Float64Array.from({ length: p }, (_, i) => (i < EFFORT_KINDS.length ? BASE[EFFORT_KINDS[i]] : 0));
  if (options.borrowed) borrowedBase(options.borrowed, spec, base);
  const beta = Float64Array.from(base);
  const penalties = spec.terms.map((t) => design.penaltyOf(t));
  const lambda: number[] = spec.terms.map((t) => (looks.length && START[t.name]) || EXPECTED[t.name]);

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
  // On the way there a part of the places is enough to tell the way.
  for (let k = 0; k < 3; k++) {
    const factor = factorOf(information(problem, beta, spec, 4), state);
    iterations++;
    if (step(problem, state, factor) < 0.3) break;
  }
  const last = spec.terms.map(() => 0);
  let info = information(problem, beta, spec, likingOnly ? 1 : 2);
  const dispersion = looks.length ? dispersionOf(problem, beta, spec, looks, cells) : 1;
  problem.worth = 1 / dispersion;
  for (let i = 0; i < info.length; i++) info[i] *= problem.worth;
  for (let round = 0; looks.length && round < (likingOnly ? 3 : ROUNDS); round++) {
    if (options.cancelled?.()) throw new CancelledError('the fit was cancelled');
    if (round === 3 && !likingOnly) info = information(problem, beta, spec, 2);
    const inverse = invertFactor(settle(info, 3, 0.05), p);
    let moved = 0;
    spec.terms.forEach((term, k) => {
      if (!term.count) return;
      const { next, freedom } = fellnerSchall(term, penalties[k], lambda[k], { beta, base }, inverse, p);
      const way = Math.log(next / lambda[k]);
      // A term that has all but vanished may go on vanishing; nothing waits for it.
      if (freedom > 0.3) moved = Math.max(moved, Math.abs(way));
      // The update goes an even way in small steps: twice as far where it goes on as before.
      lambda[k] = way * last[k] > 0 ? boundedPrecision(term.name, next * Math.exp(way)) : next;
      last[k] = way;
    });
    options.onProgress?.((round + 1) / (ROUNDS + 1));
    if (moved < 0.15) break;
  }
  settle(info, 6, 1e-3);
  const inverse = likingOnly ? new Float64Array(0) : invertFactor(settle(information(problem, beta, spec), 10, 1e-6), p);
  // A handful of trips all saw their own days: the log has its full say only with more of them.
  const say = likingOnly ? 1 : trips ** 2 / (trips ** 2 + FULL_SAY ** 2);
  // What was seen at a place is of that place, and keeps its full say there.
  const places = spec.terms.find((t) => t.name === 'place')!;
  for (let i = 0; i < p; i++) if (i < places.start || i >= places.start + places.count) beta[i] = base[i] + say * (beta[i] - base[i]);
  const tripTerm = spec.terms.findIndex((t) => t.name === 'trip');
  const tripSpread = trips > 1 ? 1 / Math.sqrt(lambda[tripTerm]) : 0.6;
  const kept = likingOnly ? null : staying(problem, beta, design, species, days);
  const shifts = kept?.shifts ?? new Float64Array(looks.length);
  const before = beta[0];
  if (!likingOnly) level(problem, beta, looks, tripSpread, shifts);
  const usualTotal = kept && kept.usual + beta[0] - before;
  const own = p - trips;
  const covariance = new Float32Array(likingOnly ? 0 : own * own);
  for (let i = 0; i < own && !likingOnly; i++)
    for (let j = 0; j <= i; j++) covariance[i * own + j] = covariance[j * own + i] = inverseEntry(inverse, p, i, j);
  return {
    profile: species,
    spec,
    beta,
    covariance,
    lambda: Object.fromEntries(spec.terms.map((t, k) => [t.name, lambda[k]])),
    tripSpread,
    usualTotal,
    holding: holdingObservations(looks, cells),
    today: likingOnly ? { fish: null, bait: null, baitRate: 0 } : todayOf(looks, problem, state, cells, shifts),
    size: likingOnly ? null : learnSizes(looks, cells, species),
    stats: {
      looks: looks.length,
      trips,
      contacts: looks.reduce((s, l) => s + Array.from(l.odds).reduce((sum, o) => sum + o, 0), 0),
      from: looks.length ? looks.reduce((a, l) => Math.min(a, l.look.from), Infinity) : null,
      to: looks.length ? looks.reduce((a, l) => Math.max(a, l.look.to), -Infinity) : null,
      iterations,
      fittedMs: Math.round(now() - started),
      dispersion,
      borrowed: options.borrowed
        ? { water: options.borrowed.water, trips: options.borrowed.trips, contacts: options.borrowed.contacts }
        : null,
    },
  };
}

/** What keeps the fish of the water about as many on the days of the looks, and the mean total they are drawn to; null without a log. */
function staying(
  problem: Problem,
  beta: Float64Array,
  design: Design,
  species: SpeciesProfile,
  days: DesignDay[],
): { shifts: Float64Array; usual: number } | null {
  const total = new DayTotal(design, beta, design.cells, species);
  const totals = new Map<DesignDay, number>();
  for (const day of days) if (!totals.has(day)) totals.set(day, total.logMean(day));
  const eta = logRates({ ...problem, trip: new Int32Array(days.length).fill(-1) }, beta, 0);
  let [weights, sum] = [0, 0];
  days.forEach((day, k) => {
    const rate = Math.exp(Math.min(0, eta[k]));
    weights += rate;
    sum += rate * totals.get(day)!;
  });
  if (!(weights > 0) || !Number.isFinite(sum)) return null;
  const usual = sum / weights;
  return { shifts: Float64Array.from(days, (day) => stayingShift(totals.get(day)!, usual)), usual };
}

/**
 * Moves the level of each kind of effort such that the log is expected to see as much as it did, days' luck integrated
 * over as in a forecast: the spread between trips is itself drawn to an expectation, which must not lift the level.
 */
function level(problem: Problem, beta: Float64Array, looks: SpeciesLook[], tripSpread: number, shifts: Float64Array): void {
  const eta = logRates({ ...problem, trip: new Int32Array(looks.length).fill(-1) }, beta, 0);
  const [seen, expected] = [new Float64Array(EFFORT_KINDS.length), new Float64Array(EFFORT_KINDS.length)];
  looks.forEach(({ look }, k) => {
    const kind = likelihoodOf(look);
    seen[kind] += problem.seen[k];
    expected[kind] += chance(eta[k] + shifts[k], tripSpread);
  });
  seen.forEach((n, kind) => (beta[kind] += Math.log((n + LEVEL_WORTH) / (expected[kind] + LEVEL_WORTH))));
}

/** So many contacts, seen as expected, are added to what the log shows: a short one hardly moves the level. */
const LEVEL_WORTH = 50;

/** What the trips say of how a day's sightings carry, their own luck left out. */
function todayOf(looks: SpeciesLook[], problem: Problem, state: State, cells: CellTable, shifts: Float64Array): TodayModel {
  const eta = logRates({ ...problem, trip: new Int32Array(looks.length).fill(-1) }, state.beta, 0);
  const baitOf = (l: SpeciesLook): number => l.look.targets.filter((t) => t.kind === 'bait').length;
  const scans = looks.map((l, k) => ({ l, k })).filter(({ l }) => l.look.kind === 'scan');
  const effort = scans.reduce((s, { l }) => s + Math.exp(logEffort(l.look)), 0);
  const baitRate = effort > 0 ? scans.reduce((s, { l }) => s + baitOf(l), 0) / effort : 0;
  const days = scans.map(({ l, k }): DayLook => ({
    trip: l.trip,
    x: (cells.column[l.cell] + 0.5) * CELL,
    y: (cells.row[l.cell] + 0.5) * CELL,
    at: l.look.from,
    expected: Math.exp(eta[k] + shifts[k]),
    seen: problem.seen[k],
    expectedBait: baitRate * Math.exp(logEffort(l.look)),
    bait: baitOf(l),
  }));
  return learnToday(days, baitRate);
}

const boundedPrecision = (name: TermName, precision: number): number =>
  Math.min(TIGHTEST[name] ?? 1e5, Math.max(LOOSEST[name] ?? 0.05, precision));

function fellnerSchall(
  term: { name: TermName; start: number; count: number },
  penalty: Float64Array,
  lambda: number,
  { beta, base }: Pick<State, 'beta' | 'base'>,
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
      square += s * (beta[start + a] - base[start + a]) * (beta[start + b] - base[start + b]);
    }
  const freedom = Math.max(1e-6, count - lambda * trace);
  const next = (freedom + EXPECTED_WORTH) / (square + EXPECTED_WORTH / EXPECTED[term.name]);
  const bounded = boundedPrecision(term.name, next);
  // No more than a factor of eight a round: the update may overshoot when a term is all but gone.
  return { next: Math.min(lambda * 8, Math.max(lambda / 8, bounded)), freedom };
}

/** Gradient of the penalised log-likelihood. */
function gradientAt(problem: Problem, { beta, base, spec, penalties, lambda }: State): Float64Array {
  const gradient = scoreOf(problem, beta, spec);
  for (let i = 0; i < EFFORT_KINDS.length; i++) gradient[i] -= BASE_PRECISION * (beta[i] - base[i]);
  spec.terms.forEach((term, t) => {
    for (let a = 0; a < term.count; a++)
      for (let b = 0; b < term.count; b++) {
        const s = penalties[t][a * term.count + b];
        if (s !== 0) gradient[term.start + a] -= lambda[t] * s * (beta[term.start + b] - base[term.start + b]);
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
