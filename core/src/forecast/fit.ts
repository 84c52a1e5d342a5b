import type { CellTable } from '../chart';
import type { SpeciesProfile } from '../species';
import { DayTotal, stayingShift } from './day-total';
import { borrowedBase, type Borrowed } from './borrow';
import { CELL } from '../geo';
import { Design, designDays, EFFORT_KINDS, makeDesign, viewUses, type DesignDay, type DesignSpec } from './design';
import { inverseEntry, invertFactor } from '../numbers';
import { chanceOverTrips } from './predict';
import { assemble, dispersionOf, likelihoodOf, logEffort, logRates, type Problem, type SpeciesLook } from './look-likelihood';
import { blankBase, Search } from './search';
import { learnToday, type DayLook, type TodayModel } from './today';
import { learnSizes, type SizeModel } from './size';
import { holdingObservations, type HoldingObservation } from './holding-depth';

/** A fit of one species on one water. */
export interface Model {
  /** The species as it was known then, its strategies as they were set: what is forecast rests on the same. */
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
  /** Fishing in the log, rod-hours. */
  rodHours: number;
  from: number | null;
  to: number | null;
  iterations: number;
  fittedMs: number;
  /** How much more looks of one place on one trip agree than chance has it; 1 where they do not. */
  dispersion: number;
  /** What the fit started from beside the strategies. */
  borrowed: { water: string; trips: number; contacts: number } | null;
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
}

export class CancelledError extends Error {}

/** Trips at which the log has half its say against the strategies. */
const SHRINKAGE_TRIPS = 4;

/**
 * Fits P(seen) = 1 − exp(−exp(prior + Xβ + log effort)) by penalised iteratively reweighted least squares; each
 * term's precision by the generalised Fellner–Schall update (Wood & Fasiolo 2017, Biometrics 73), so that what the
 * log does not support shrinks to the strategies.
 * Looks of one place on one trip see the same packs: what a look counts for is divided by how much more they agree
 * than chance has it (the dispersion of counts by trip and 300 m square).
 */
export function fitModel(species: SpeciesProfile, cells: CellTable, unsorted: SpeciesLook[], options: FitOptions = {}): Model {
  const now = options.now ?? (() => 0);
  const started = now();
  // By place: neighbouring looks touch the same part of the information matrix. The order does not matter otherwise.
  const looks = [...unsorted].sort((a, b) => a.cell - b.cell || a.look.from - b.look.from);
  const trips = looks.reduce((most, l) => Math.max(most, l.trip + 1), 0);
  const spec = makeDesign(
    cells,
    new Set(looks.map((l) => l.cell)),
    trips,
    viewUses(looks, cells),
    looks.some(({ day }) => day.stream !== null || day.tide !== null),
  );
  const design = new Design(spec, cells);
  const days = designDays(species, looks);
  const problem = assemble(design, looks, days, true);
  const p = spec.columns;
  const base = blankBase(spec);
  if (options.borrowed) borrowedBase(options.borrowed, spec, base);
  const search = new Search(problem, design, base);
  const { beta, lambda } = search;
  search.warmStart();
  let info = search.information(2);
  const dispersion = looks.length ? dispersionOf(problem, beta, spec, looks, cells) : 1;
  problem.caseWeight.fill(1 / dispersion);
  for (let i = 0; i < info.length; i++) info[i] /= dispersion;
  for (let round = 0; looks.length && round < ROUNDS; round++) {
    if (options.cancelled?.()) throw new CancelledError('the fit was cancelled');
    if (round === 3) info = search.information(2);
    const moved = search.updateLambda(search.solve(info, 3, 0.05));
    options.onProgress?.((round + 1) / (ROUNDS + 1));
    if (moved < 0.15) break;
  }
  search.solve(info, 6, 1e-3);
  const inverse = invertFactor(search.solve(search.information(1), 10, 1e-6), p);
  // A handful of trips all saw their own days: the log has its full say only with more of them.
  const say = trips ** 2 / (trips ** 2 + SHRINKAGE_TRIPS ** 2);
  // What was seen at a place is of that place, and keeps its full say there; the level has a prior of its own.
  const places = spec.terms.find((t) => t.name === 'place')!;
  for (let i = EFFORT_KINDS.length; i < p; i++)
    if (i < places.start || i >= places.start + places.count) beta[i] = base[i] + say * (beta[i] - base[i]);
  const tripTerm = spec.terms.findIndex((t) => t.name === 'trip');
  const tripSpread = trips > 1 ? 1 / Math.sqrt(lambda[tripTerm]) : 0.6;
  const kept = abundanceShift(problem, beta, design, species, days);
  const shifts = kept?.shifts ?? new Float64Array(looks.length);
  const before = beta[0];
  level(problem, beta, looks, tripSpread, dispersion, shifts);
  const usualTotal = kept && kept.usual + beta[0] - before;
  const own = p - trips;
  const covariance = new Float32Array(own * own);
  for (let i = 0; i < own; i++)
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
    today: todayOf(looks, problem, beta, cells, shifts),
    size: learnSizes(looks, cells, species),
    stats: {
      looks: looks.length,
      trips,
      contacts: looks.reduce((s, l) => s + Array.from(l.odds).reduce((sum, o) => sum + o, 0), 0),
      rodHours: looks.reduce((s, { look }) => s + (look.kind === 'fish' ? look.effort / 60 : 0), 0),
      from: looks.length ? looks.reduce((a, l) => Math.min(a, l.look.from), Infinity) : null,
      to: looks.length ? looks.reduce((a, l) => Math.max(a, l.look.to), -Infinity) : null,
      iterations: search.iterations,
      fittedMs: Math.round(now() - started),
      dispersion,
      borrowed: options.borrowed
        ? { water: options.borrowed.water, trips: options.borrowed.trips, contacts: options.borrowed.contacts }
        : null,
    },
  };
}

/** What keeps the fish of the water about as many on the days of the looks, and the mean total they are drawn to; null without a log. */
function abundanceShift(
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
 * over as in a forecast: the spread between trips is itself drawn to an expectation, which must not lift the level. How far
 * the level moves from the prior's is by how much surer the log is of it: waters differ by WATERS_SPREAD, a log of few trips
 * by the luck of its days and of its sightings.
 */
function level(
  problem: Problem,
  beta: Float64Array,
  looks: SpeciesLook[],
  tripSpread: number,
  dispersion: number,
  shifts: Float64Array,
): void {
  const eta = logRates({ ...problem, trip: new Int32Array(looks.length).fill(-1) }, beta, 0);
  const [seen, expected] = [new Float64Array(EFFORT_KINDS.length), new Float64Array(EFFORT_KINDS.length)];
  looks.forEach(({ look }, k) => {
    const kind = likelihoodOf(look);
    seen[kind] += problem.seen[k];
    expected[kind] += chanceOverTrips(eta[k] + shifts[k], tripSpread);
  });
  const trips = new Set(looks.map((l) => l.trip)).size;
  seen.forEach((n, kind) => {
    const luck = dispersion / (n + 1) + tripSpread ** 2 / Math.max(1, trips);
    beta[kind] += (WATERS_SPREAD ** 2 / (WATERS_SPREAD ** 2 + luck)) * Math.log((n + 0.5) / (expected[kind] + 0.5));
  });
}

/** How much more plentiful a species is in one water than in another, standard deviation on the log scale: what is known before any log. */
const WATERS_SPREAD = 1.2;

/** What the trips say of how a day's sightings carry, their own luck left out. */
function todayOf(looks: SpeciesLook[], problem: Problem, beta: Float64Array, cells: CellTable, shifts: Float64Array): TodayModel {
  const eta = logRates({ ...problem, trip: new Int32Array(looks.length).fill(-1) }, beta, 0);
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
