import { FETCH_DIRECTIONS, type CellTable } from '../chart';
import { CELL } from '../geo';
import { hatAt } from './basis';
import { DayTotal, stayingShift } from './day-total';
import { Design, designDay, SparseRow, type DesignDay } from './design';
import { baitWind, blownBy, fetchIndex, openBy, schoolLasting, schoolOfDepth, SCHOOLS, shownOfColumn } from './schools';
import { HOLDING_STEP, holdingTable } from './holding-depth';
import type { Day } from './conditions';
import type { Model } from './fit';

/** The forecast of a water for a day, one entry a cell. */
export interface Forecast {
  /** Chance that one scan of the whole cell shows the species. */
  probability: Float32Array;
  /** 80 % interval of it. */
  low: Float32Array;
  high: Float32Array;
  /** Where 80 % of the targets would be, m. */
  depthTop: Float32Array;
  depthBottom: Float32Array;
}

/** Nodes and weights of five-point Gauss–Hermite quadrature for a standard normal. */
const NODES = [-2.8569700138728056, -1.355626179974266, 0, 1.355626179974266, 2.8569700138728056];
const WEIGHTS = [0.011257411327720689, 0.2220759220056126, 0.5333333333333333, 0.2220759220056126, 0.011257411327720689];

/** Half-width of a central 80 % interval in standard deviations. */
const EIGHTY = 1.2815515655446004;

/**
 * What no term of the design can say of a cell, as a standard deviation on the log scale: with it, 80 % intervals hold
 * about 80 % of the true chances on made-up waters, each cell counting by its chance.
 */
export const BEYOND_TERMS = 0.55;

/** Chance of at least one target for a log rate, with the spread between trips integrated over. */
export function chance(logRate: number, tripSpread: number): number {
  let total = 0;
  for (let k = 0; k < NODES.length; k++) total += WEIGHTS[k] * -Math.expm1(-Math.exp(Math.min(6, logRate + tripSpread * NODES[k])));
  return total;
}

/** Log rates between which chances are tabled, and the step: fine enough for four figures. */
const [TABLE_LOW, TABLE_HIGH, TABLE_STEP] = [-16, 5, 0.01];

/** `chance` by log rate for one spread between trips, read by linear interpolation. */
class ChanceTable {
  private readonly values: Float64Array;
  constructor(readonly tripSpread: number) {
    const n = Math.round((TABLE_HIGH - TABLE_LOW) / TABLE_STEP) + 2;
    this.values = Float64Array.from({ length: n }, (_, k) => chance(TABLE_LOW + k * TABLE_STEP, tripSpread));
  }
  at(logRate: number): number {
    const x = (Math.min(TABLE_HIGH, Math.max(TABLE_LOW, logRate)) - TABLE_LOW) / TABLE_STEP;
    const k = Math.floor(x);
    return this.values[k] + (x - k) * (this.values[k + 1] - this.values[k]);
  }
}

/** Step of the depths that a day is worked out for, m. */
const DEPTH_STEP = 0.02;

/**
 * Forecasts days on one water from one fit. What lasts at a cell is worked out once: its log rate, the variance of that,
 * and how it varies with every column of the day. For a day, what follows from the depth alone is worked out once a step
 * of depth; a cell then adds its schools, hardness and wind.
 */
export class Predictor {
  private readonly design: Design;
  private readonly lastingRate: Float64Array;
  private readonly lastingVariance: Float64Array;
  /** Covariance of what lasts at a cell with each column of the day. */
  private readonly withDay: Float32Array;
  /** What of each school lasts at each cell, one block a school. */
  private readonly schools: Float32Array;
  private readonly chances: ChanceTable;
  private readonly total: DayTotal;

  constructor(
    readonly model: Model,
    readonly cells: CellTable,
  ) {
    const { spec, beta, covariance, lambda, tripSpread, profile } = model;
    this.design = new Design(spec, cells);
    const kept = Math.round(Math.sqrt(covariance.length));
    const days = spec.lasting;
    const n = cells.count;
    this.lastingRate = new Float64Array(n);
    this.lastingVariance = new Float64Array(n);
    this.withDay = new Float32Array(n * days);
    this.schools = new Float32Array(n * SCHOOLS.length);
    this.chances = new ChanceTable(tripSpread);
    this.total = new DayTotal(this.design, beta, cells, profile);
    const row = new SparseRow();
    for (let i = 0; i < n; i++) {
      row.n = 0;
      let variance = this.design.addLasting(row, i) / lambda.place;
      let rate = Math.log(Math.max(1, cells.area[i]) / (CELL * CELL)) + shownOfColumn(cells.depth[i]);
      for (let a = 0; a < row.n; a++) {
        const [ia, va] = [row.index[a], row.value[a]];
        rate += va * beta[ia];
        const base = ia * kept;
        for (let b = 0; b < a; b++) variance += 2 * va * row.value[b] * covariance[base + row.index[b]];
        variance += va * va * covariance[base + ia];
        const own = i * days;
        for (let d = 0; d < days; d++) this.withDay[own + d] += va * covariance[base + d];
      }
      this.lastingRate[i] = rate;
      this.lastingVariance[i] = variance;
      SCHOOLS.forEach((school, k) => (this.schools[k * n + i] = schoolLasting(school, profile, cells, i)));
    }
  }

  /** @param today change of the log rate of each cell by what was seen earlier today, if anything was */
  on(day: Day, today: Float32Array | null = null): Forecast {
    const { model, cells, design } = this;
    const { beta, covariance, spec, profile } = model;
    const days = spec.lasting;
    const kept = Math.round(Math.sqrt(covariance.length));
    const n = cells.count;
    const out: Forecast = {
      probability: new Float32Array(n),
      low: new Float32Array(n),
      high: new Float32Array(n),
      depthTop: new Float32Array(n),
      depthBottom: new Float32Array(n),
    };
    const at = designDay(profile, day);
    const depths = this.byDepth(at);
    const holding = holdingTable(model.holding, profile, at, day.maxDepth);
    const { schools, bottom, wind } = design.besideDepth;
    const temperature = hatAt(spec.splines.temperature, at.surface);
    // The columns that a cell adds to those of its depth: schools, hardness by temperature, wind.
    const own = [...SCHOOLS.map((_, k) => schools + k), bottom[0] + temperature[0], bottom[0] + temperature[0] + 1, wind, wind + 1];
    const m = own.length;
    const { weights } = at.school;
    const windWorth = baitWind(at.school);
    // Half of the variance of what a cell adds: each pair once, its own with half its weight.
    const among = Float64Array.from({ length: m * m }, (_, k) => {
      const [j, other] = [Math.floor(k / m), k % m];
      return covariance[own[j] * kept + own[other]] * (j === other ? 0.5 : 1);
    });
    const worth = Float64Array.from(own, (c, j) => beta[c] + (j < weights.length ? weights[j] : 0));
    const { from, value, index, withOwn } = depths;
    const x = new Float64Array(m);
    const shift = model.usualTotal === null ? 0 : stayingShift(this.total.logMean(at), model.usualTotal);
    const { windFrom, windSpeed } = at.school;
    const [windSchool, hardAt, windAt] = [SCHOOLS.indexOf('bait'), SCHOOLS.length, SCHOOLS.length + 2];
    const { lastingRate, lastingVariance, withDay, chances, schools: lastingSchools } = this;
    const { depth: bottoms, hardness, fetch } = cells;
    const [upwind, downwind] = [fetchIndex(windFrom), fetchIndex(windFrom + 180)];
    const { added, times } = depths;
    const count = SCHOOLS.length;
    for (let i = 0; i < n; i++) {
      const depth = bottoms[i];
      let eta = lastingRate[i] + shift + (today ? today[i] : 0);
      let variance = lastingVariance[i];
      const cross = i * days;
      if (Number.isNaN(depth)) {
        eta += beta[0];
        variance += covariance[0] + 2 * withDay[cross];
      } else {
        const b = Math.min(depths.rate.length - 1, Math.round(depth / DEPTH_STEP));
        const [up, down] = [fetch[i * FETCH_DIRECTIONS + upwind], fetch[i * FETCH_DIRECTIONS + downwind]];
        const blown = blownBy(up, down, windSpeed);
        const s = b * count;
        for (let k = 0; k < count; k++) x[k] = added[s + k] + times[s + k] * lastingSchools[k * n + i];
        x[windSchool] += windWorth * blown;
        const hard = hardness[i] - 0.4;
        x[hardAt] = Number.isNaN(hard) ? 0 : hard * temperature[1][0];
        x[hardAt + 1] = Number.isNaN(hard) ? 0 : hard * temperature[1][1];
        x[windAt] = blown;
        x[windAt + 1] = openBy(up, down, windSpeed);
        eta += depths.rate[b];
        variance += depths.variance[b];
        let half = 0;
        for (let j = from[b], end = from[b + 1]; j < end; j++) half += value[j] * withDay[cross + index[j]];
        const line = b * m;
        for (let j = 0; j < m; j++) {
          const v = x[j];
          if (v === 0) continue;
          eta += v * worth[j];
          let sum = withOwn[line + j] + withDay[cross + own[j]];
          for (let k = 0, at = j * m; k <= j; k++) sum += x[k] * among[at + k];
          half += v * sum;
        }
        variance += 2 * half;
      }
      const spread = EIGHTY * Math.sqrt(Math.max(0, variance) + BEYOND_TERMS ** 2);
      out.probability[i] = chances.at(eta);
      out.low[i] = chances.at(eta - spread);
      out.high[i] = chances.at(eta + spread);
      const h = Number.isNaN(depth) ? 0 : Math.min(holding.top.length - 1, Math.round(depth / HOLDING_STEP));
      out.depthTop[i] = holding.top[h];
      out.depthBottom[i] = holding.bottom[h];
    }
    return out;
  }

  /** What follows on a day from the depth alone, a row a step of depth. */
  private byDepth(day: DesignDay): DepthRows {
    const { model, cells, design } = this;
    const { beta, covariance } = model;
    const kept = Math.round(Math.sqrt(covariance.length));
    const { schools, bottom, wind } = design.besideDepth;
    const temperature = hatAt(model.spec.splines.temperature, day.surface)[0];
    const own = [...SCHOOLS.map((_, k) => schools + k), bottom[0] + temperature, bottom[0] + temperature + 1, wind, wind + 1];
    const deepest = cells.depth.reduce((most, d) => (d > most ? d : most), 0);
    const count = Math.ceil(deepest / DEPTH_STEP) + 2;
    const row = new SparseRow();
    const out: DepthRows = {
      rate: new Float64Array(count),
      variance: new Float64Array(count),
      withOwn: new Float64Array(count * own.length),
      added: new Float64Array(count * SCHOOLS.length),
      times: new Float64Array(count * SCHOOLS.length),
      from: new Int32Array(count + 1),
      index: new Int32Array(count * 24),
      value: new Float64Array(count * 24),
    };
    for (let b = 0; b < count; b++) {
      row.n = 0;
      row.add(0, 1);
      design.addOfDepth(row, b * DEPTH_STEP, day);
      for (let a = 0; a < row.n; a++) {
        const [ia, va] = [row.index[a], row.value[a]];
        out.rate[b] += va * beta[ia];
        const base = ia * kept;
        out.variance[b] += va * va * covariance[base + ia];
        for (let c = 0; c < a; c++) out.variance[b] += 2 * va * row.value[c] * covariance[base + row.index[c]];
        for (let j = 0; j < own.length; j++) out.withOwn[b * own.length + j] += va * covariance[base + own[j]];
        out.index[out.from[b] + a] = ia;
        out.value[out.from[b] + a] = va;
      }
      out.from[b + 1] = out.from[b] + row.n;
      SCHOOLS.forEach((school, k) => {
        const s = b * SCHOOLS.length + k;
        [out.added[s], out.times[s]] = schoolOfDepth(school, day.school, b * DEPTH_STEP);
      });
    }
    return out;
  }
}

interface DepthRows {
  rate: Float64Array;
  variance: Float64Array;
  /** Covariance with each of the columns that a cell adds. */
  withOwn: Float64Array;
  added: Float64Array;
  times: Float64Array;
  /** The columns themselves, row by row. */
  from: Int32Array;
  index: Int32Array;
  value: Float64Array;
}

/** Forecasts one day for every cell of a water. For several days keep a Predictor. */
export const predict = (model: Model, cells: CellTable, day: Day): Forecast => new Predictor(model, cells).on(day);
