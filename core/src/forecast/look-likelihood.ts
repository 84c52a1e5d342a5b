import type { CellTable } from '../chart';
import { CELL } from '../geo';
import type { Look } from '../logbook';
import type { Day } from './conditions';
import { EFFORT_KINDS, SparseRow, type Design, type DesignDay, type DesignSpec } from './design';

/** A look ready for fitting: its cell in the chart's table and the day it was made on. */
export interface FitLook {
  look: Look;
  cell: number;
  trip: number;
  day: Day;
}

/** A look with the chance that each of its targets truly is what is being fitted. */
export interface SpeciesLook extends FitLook {
  odds: ArrayLike<number>;
}

/**
 * What a blank of no minutes ("Nothing here") is worth, in scans of its circle: the angler looked through the whole
 * picture and was sure. It is no fishing, so it speaks through the likelihood of scans.
 */
const BLANK_SCANS = 2;
/** The least scanned area that is taken at its word, m². */
const LEAST_AREA = 30;

/** Chance that a look showed at least one target that truly is of the species. */
export const seenChance = ({ odds }: SpeciesLook): number => {
  let miss = 1;
  for (let k = 0; k < odds.length; k++) miss *= 1 - odds[k];
  return 1 - miss;
};

const isBlank = (look: Look): boolean => look.kind === 'fish' && look.effort === 0;

/** The kind of effort whose likelihood a look speaks through. */
export const likelihoodOf = (look: Look): number => EFFORT_KINDS.indexOf(isBlank(look) ? 'scan' : look.kind);

/** Log of a look's effort in the unit of its likelihood: cells scanned, rod-minutes, metres trolled. */
export function logEffort(look: Look): number {
  if (isBlank(look)) return Math.log((BLANK_SCANS * Math.max(1, look.area)) / (CELL * CELL));
  if (look.kind === 'scan') return Math.log(Math.max(LEAST_AREA, look.effort) / (CELL * CELL));
  return Math.log(Math.max(look.kind === 'troll' ? 1 : 0.05, look.effort));
}

/** Looks as numbers, by cell: what lasts at a cell is held once, what is of the day once a look. */
export interface Problem {
  n: number;
  offset: Float64Array;
  seen: Float64Array;
  trip: Int32Array;
  /** First look of each cell's run, and one past the last. */
  runs: Int32Array;
  staticRows: Int32Array;
  staticIndex: Uint16Array;
  staticValue: Float32Array;
  dayRows: Int32Array;
  dayIndex: Uint16Array;
  dayValue: Float32Array;
  /** What each look counts for, against a look on its own. */
  caseWeight: Float64Array;
}

/** Sparse rows one after the other, in arrays that grow. */
class Rows {
  readonly at: Int32Array;
  private n = 0;
  private last = 0;
  private indices: Uint16Array;
  private values: Float32Array;
  constructor(rows: number, about: number) {
    this.at = new Int32Array(rows + 1);
    this.indices = new Uint16Array(rows * about + 64);
    this.values = new Float32Array(rows * about + 64);
  }
  add(row: SparseRow): void {
    if (this.n + row.n > this.indices.length) {
      const [indices, values] = [this.indices, this.values];
      this.indices = new Uint16Array(2 * indices.length + row.n);
      this.values = new Float32Array(2 * values.length + row.n);
      this.indices.set(indices);
      this.values.set(values);
    }
    for (let j = 0; j < row.n; j++, this.n++) {
      this.indices[this.n] = row.index[j];
      this.values[this.n] = row.value[j];
    }
    this.at[++this.last] = this.n;
  }
  get index(): Uint16Array {
    return this.indices.subarray(0, this.n);
  }
  get value(): Float32Array {
    return this.values.subarray(0, this.n);
  }
}

/** @param looks sorted by cell */
export function assemble(design: Design, looks: SpeciesLook[], days: DesignDay[], withTrips: boolean): Problem {
  const row = new SparseRow();
  const cells = looks.reduce((count, l, k) => count + (k && looks[k - 1].cell === l.cell ? 0 : 1), 0);
  const [statics, ofDay] = [new Rows(cells, 48), new Rows(looks.length, 44)];
  const runs: number[] = [];
  const n = looks.length;
  const problem = { offset: new Float64Array(n), seen: new Float64Array(n), trip: new Int32Array(n).fill(-1) };
  looks.forEach((l, k) => {
    const { look, cell, trip } = l;
    if (!k || looks[k - 1].cell !== cell) {
      runs.push(k);
      row.n = 0;
      design.addStatic(row, cell);
      statics.add(row);
    }
    row.n = 0;
    design.addOfDay(row, cell, days[k], likelihoodOf(look));
    design.addDetection(row, look, cell);
    ofDay.add(row);
    problem.offset[k] = logEffort(look) + design.prior(cell, days[k]);
    problem.seen[k] = seenChance(l);
    if (withTrips) problem.trip[k] = trip;
  });
  runs.push(n);
  return {
    n,
    ...problem,
    runs: Int32Array.from(runs),
    staticRows: statics.at,
    staticIndex: statics.index,
    staticValue: statics.value,
    dayRows: ofDay.at,
    dayIndex: ofDay.index,
    dayValue: ofDay.value,
    caseWeight: new Float64Array(n).fill(1),
  };
}

/** Log rates are kept within these: beyond them a chance is 0 or 1. */
const bounded = (eta: number): number => Math.min(6, Math.max(-25, eta));

/** Log rate of every look. */
export function logRates(
  { n, offset, trip, runs, staticRows, staticIndex, staticValue, dayRows, dayIndex, dayValue }: Problem,
  beta: Float64Array,
  firstTrip: number,
): Float64Array {
  const eta = new Float64Array(n);
  for (let run = 0; run + 1 < runs.length; run++) {
    let fixed = 0;
    for (let j = staticRows[run]; j < staticRows[run + 1]; j++) fixed += staticValue[j] * beta[staticIndex[j]];
    for (let k = runs[run]; k < runs[run + 1]; k++) {
      let own = offset[k] + fixed + (trip[k] >= 0 ? beta[firstTrip + trip[k]] : 0);
      for (let j = dayRows[k]; j < dayRows[k + 1]; j++) own += dayValue[j] * beta[dayIndex[j]];
      eta[k] = bounded(own);
    }
  }
  return eta;
}

/** Where the trips' columns begin. */
export const firstTripOf = ({ terms, columns }: DesignSpec): number => terms.find((t) => t.name === 'trip')?.start ?? columns;

/** Pearson's dispersion of what was seen against what was expected, by trip and square of 300 m; at least 1. */
export function dispersionOf(problem: Problem, beta: Float64Array, spec: DesignSpec, looks: SpeciesLook[], cells: CellTable): number {
  const eta = logRates(problem, beta, firstTripOf(spec));
  const side = 300 / CELL;
  const clusters = new Map<string, [off: number, spread: number]>();
  looks.forEach(({ cell, trip }, k) => {
    const key = `${trip} ${Math.floor(cells.column[cell] / side)} ${Math.floor(cells.row[cell] / side)}`;
    const p = -Math.expm1(-Math.exp(eta[k]));
    const c = clusters.get(key) ?? [0, 0];
    clusters.set(key, [c[0] + problem.seen[k] - p, c[1] + p * (1 - p)]);
  });
  let [squares, expected] = [0, 0];
  for (const [off, spread] of clusters.values()) {
    squares += off * off;
    expected += spread;
  }
  return Math.min(4, Math.max(1, squares / Math.max(1e-9, expected)));
}

/** Expected information of the looks alone, lower triangle. @param every only each so-many-th cell is looked at, and counts as many times */
export function information(problem: Problem, beta: Float64Array, spec: DesignSpec, every = 1): Float64Array {
  const p = spec.columns;
  const info = new Float64Array(p * p);
  const firstTrip = firstTripOf(spec);
  const { runs, trip, staticRows, staticIndex, staticValue, dayRows, dayIndex, dayValue, caseWeight } = problem;
  const eta = logRates(problem, beta, firstTrip);
  // Of one cell: the weighted sum of its looks' own columns, and which of them are not zero. What is of the day is
  // gathered in a small table of its own, which stays in the processor's cache.
  const days = spec.staticColumns;
  const sum = new Float64Array(days);
  const touched = new Int32Array(days);
  // By the cell a column was last met at: its sum may be nothing although it was met, and it would count twice.
  const metAt = new Int32Array(days).fill(-1);
  const ofDays = new Float64Array(days * days);
  for (let run = 0; run + 1 < runs.length; run += every) {
    const [from, to] = [staticRows[run], staticRows[run + 1]];
    let [total, n] = [0, 0];
    for (let k = runs[run]; k < runs[run + 1]; k++) {
      const mu = Math.exp(eta[k]);
      const weight = every * caseWeight[k] * Math.max(1e-9, (mu * mu * Math.exp(-mu)) / -Math.expm1(-mu));
      total += weight;
      const [first, end] = [dayRows[k], dayRows[k + 1]];
      for (let a = first; a < end; a++) {
        const i = dayIndex[a];
        const wa = weight * dayValue[a];
        if (metAt[i] !== run) {
          metAt[i] = run;
          touched[n++] = i;
        }
        sum[i] += wa;
        const line = i * days;
        for (let b = first; b <= a; b++) ofDays[line + dayIndex[b]] += wa * dayValue[b];
      }
      if (trip[k] < 0) continue;
      const line = (firstTrip + trip[k]) * p;
      info[line + firstTrip + trip[k]] += weight;
      for (let a = first; a < end; a++) info[line + dayIndex[a]] += weight * dayValue[a];
      for (let a = from; a < to; a++) info[line + staticIndex[a]] += weight * staticValue[a];
    }
    for (let a = from; a < to; a++) {
      const line = staticIndex[a] * p;
      const va = staticValue[a];
      const wa = total * va;
      for (let b = from; b <= a; b++) info[line + staticIndex[b]] += wa * staticValue[b];
      for (let t = 0; t < n; t++) info[line + touched[t]] += va * sum[touched[t]];
    }
    for (let t = 0; t < n; t++) sum[touched[t]] = 0;
  }
  for (let i = 0; i < days; i++) for (let j = 0; j <= i; j++) info[i * p + j] += ofDays[i * days + j];
  return info;
}

/** Gradient of the log-likelihood of the looks alone. */
export function scoreOf(problem: Problem, beta: Float64Array, spec: DesignSpec): Float64Array {
  const gradient = new Float64Array(spec.columns);
  const firstTrip = firstTripOf(spec);
  const { offset, runs, seen, trip, staticRows, staticIndex, staticValue, dayRows, dayIndex, dayValue, caseWeight } = problem;
  for (let run = 0; run + 1 < runs.length; run++) {
    const [from, to] = [staticRows[run], staticRows[run + 1]];
    let fixed = 0;
    for (let a = from; a < to; a++) fixed += staticValue[a] * beta[staticIndex[a]];
    let total = 0;
    for (let k = runs[run]; k < runs[run + 1]; k++) {
      const [first, end] = [dayRows[k], dayRows[k + 1]];
      let eta = offset[k] + fixed + (trip[k] >= 0 ? beta[firstTrip + trip[k]] : 0);
      for (let a = first; a < end; a++) eta += dayValue[a] * beta[dayIndex[a]];
      const mu = Math.exp(bounded(eta));
      const score = caseWeight[k] * (seen[k] * ((mu * Math.exp(-mu)) / -Math.expm1(-mu)) - (1 - seen[k]) * mu);
      total += score;
      for (let a = first; a < end; a++) gradient[dayIndex[a]] += score * dayValue[a];
      if (trip[k] >= 0) gradient[firstTrip + trip[k]] += score;
    }
    for (let a = from; a < to; a++) gradient[staticIndex[a]] += total * staticValue[a];
  }
  return gradient;
}
