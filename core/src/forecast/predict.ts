import { FETCH_DIRECTIONS, type CellTable } from '../chart';
import { CELL } from '../geo';
import { strategySetting } from '../species';
import { hatAt } from './basis';
import { CellsWithDay } from './cells-with-day';
import { DayTotal, stayingShift } from './day-total';
import { Design, designDay, SparseRow, type DesignDay } from './design';
import {
  baitWind,
  blownBy,
  currentSides,
  fetchIndex,
  STATIC_SCALED_BY_DAY,
  openBy,
  staticPart,
  strategyOfDepth,
  STRATEGIES,
  shownOfColumn,
  STATIC_STRATEGIES,
} from './strategies';
import { STREAM_SIDES, streamSides } from './stream-sides';
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
const Z80 = 1.2815515655446004;

/**
 * What no term of the design can say of a cell, as a standard deviation on the log scale: with it, 80 % intervals hold
 * about 80 % of the true chances on made-up waters, each cell counting by its chance.
 */
export const BEYOND_TERMS = 0.55;

/** Chance of at least one target for a log rate, with the trip effect integrated out (Gauss–Hermite quadrature). */
export function chanceOverTrips(logRate: number, tripSpread: number): number {
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
    this.values = Float64Array.from({ length: n }, (_, k) => chanceOverTrips(TABLE_LOW + k * TABLE_STEP, tripSpread));
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
 * and how it varies together with what a day adds. For a day, what follows from the depth alone is worked out once a
 * step of depth; a cell then adds its strategies, hardness and wind.
 */
export class Predictor {
  private readonly design: Design;
  private readonly staticRate: Float64Array;
  private readonly staticVariance: Float64Array;
  private readonly withDay: CellsWithDay;
  /** What lasts of the strategies of which a part does that counts by the day, row by row. */
  private readonly strategies: Float32Array;
  private readonly table: ChanceTable;
  private readonly total: DayTotal;

  constructor(
    readonly model: Model,
    readonly cells: CellTable,
  ) {
    const { spec, beta, covariance, lambda, tripSpread, profile } = model;
    this.design = new Design(spec, cells);
    const kept = Math.round(Math.sqrt(covariance.length));
    const n = cells.count;
    this.staticRate = new Float64Array(n);
    this.staticVariance = new Float64Array(n);
    this.withDay = new CellsWithDay(this.design, cells, covariance);
    this.strategies = new Float32Array(n * STATIC_SCALED_BY_DAY.length);
    this.table = new ChanceTable(tripSpread);
    this.total = new DayTotal(this.design, beta, cells, profile);
    const row = new SparseRow();
    for (let i = 0; i < n; i++) {
      row.n = 0;
      row.add(0, 1);
      let rate = Math.log(Math.max(1, cells.area[i]) / (CELL * CELL)) + shownOfColumn(cells.depth[i]);
      for (const strategy of STATIC_STRATEGIES) {
        const score = staticPart(strategy, profile, cells, i);
        row.add(this.design.start.strategies + STRATEGIES.indexOf(strategy), score);
        rate += strategySetting(profile, `${strategy}.weight`) * score;
      }
      let variance = this.design.addStatic(row, i) / lambda.place;
      for (let a = 0; a < row.n; a++) {
        const [ia, va] = [row.index[a], row.value[a]];
        rate += va * beta[ia];
        const base = ia * kept;
        for (let b = 0; b < a; b++) variance += 2 * va * row.value[b] * covariance[base + row.index[b]];
        variance += va * va * covariance[base + ia];
      }
      this.withDay.set(i, row);
      this.staticRate[i] = rate;
      this.staticVariance[i] = variance;
      STATIC_SCALED_BY_DAY.forEach(
        (strategy, k) => (this.strategies[i * STATIC_SCALED_BY_DAY.length + k] = staticPart(strategy, profile, cells, i)),
      );
    }
  }

  /** @param today change of the log rate of each cell by what was seen earlier today, if anything was */
  on(day: Day, today: Float32Array | null = null): Forecast {
    return this.work(day, today, true);
  }

  /** The chances of a day alone, in a fraction of the time. @param today as for a whole forecast */
  chances(day: Day, today: Float32Array | null = null): Float32Array {
    return this.work(day, today, false).probability;
  }

  /** @param intervals whether they are wanted, and depths; without them only the chances are filled in */
  private work(day: Day, today: Float32Array | null, intervals: boolean): Forecast {
    const { model, cells, staticRate, staticVariance, table, strategies } = this;
    const n = cells.count;
    const probability = new Float32Array(n);
    const out: Forecast = {
      probability,
      low: new Float32Array(n),
      high: new Float32Array(n),
      depthTop: new Float32Array(n),
      depthBottom: new Float32Array(n),
    };
    const at = designDay(model.profile, day);
    const own = this.ownOf(at);
    const { rate, variance: spreadOfDepth, withOwn, times, from, value, index } = this.byDepth(at, own, intervals);
    const holding = intervals ? holdingTable(model.holding, model.profile, at, day.maxDepth) : null;
    const shift = model.usualTotal === null ? 0 : stayingShift(this.total.logMean(at), model.usualTotal);
    const { values, width, wind, stream: streamEntry } = this.withDay;
    const [baitEntry, entries] = [this.withDay.entryOf('bait'), STATIC_SCALED_BY_DAY.map((strategy) => this.withDay.entryOf(strategy))];
    const { windFrom, windSpeed } = at.strategy;
    const bait = baitWind(at.strategy);
    const { depth: bottoms, hardness, fetch } = cells;
    const [upwind, downwind] = [fetchIndex(windFrom), fetchIndex(windFrom + 180)];
    const { coefficients, among } = own;
    const { stream } = at.strategy;
    const sides = new Float64Array(STREAM_SIDES.length);
    const currentEntry = this.withDay.entryOf('current');
    const current = currentSides(at.strategy);
    const { running } = model.spec;
    const count = STATIC_SCALED_BY_DAY.length;
    const m = coefficients.length;
    const x = new Float64Array(m);
    for (let i = 0; i < n; i++) {
      const depth = bottoms[i];
      let eta = staticRate[i] + shift + (today ? today[i] : 0);
      let variance = staticVariance[i];
      if (!Number.isNaN(depth)) {
        const b = Math.min(rate.length - 1, Math.round(depth / DEPTH_STEP));
        const [up, down] = [fetch[i * FETCH_DIRECTIONS + upwind], fetch[i * FETCH_DIRECTIONS + downwind]];
        const blown = blownBy(up, down, windSpeed);
        const open = openBy(up, down, windSpeed);
        const hard = hardness[i] - 0.4;
        for (let k = 0; k < count; k++) x[k] = times[b * count + k] * strategies[i * count + k];
        x[count] = blown;
        x[count + 1] = open;
        // What hardness by temperature has in common with what lasts is in the entries of temperature already.
        x[count + 2] = Number.isNaN(hard) ? 0 : hard;
        if (stream) {
          streamSides(sides, cells, i, stream);
          for (let k = 0; k < sides.length; k++) x[count + 3 + k] = sides[k];
        }
        eta += rate[b];
        for (let j = 0; j < m; j++) eta += x[j] * coefficients[j];
        if (intervals) {
          const row = i * width;
          let half = 0;
          for (let j = from[b], end = from[b + 1]; j < end; j++) half += value[j] * values[row + index[j]];
          for (let k = 0; k < count; k++) half += x[k] * values[row + entries[k]];
          if (stream) {
            if (running) for (let k = 0; k < sides.length; k++) half += sides[k] * values[row + streamEntry + k];
            half += (current[0] * sides[1] + current[1] * sides[2]) * values[row + currentEntry];
          }
          half += blown * (bait * values[row + baitEntry] + values[row + wind]) + open * values[row + wind + 1];
          for (let j = 0; j < m; j++) {
            let sum = withOwn[b * m + j];
            for (let k = 0, pair = j * m; k <= j; k++) sum += x[k] * among[pair + k];
            half += x[j] * sum;
          }
          variance += spreadOfDepth[b] + 2 * half;
        }
      }
      probability[i] = table.at(eta);
      if (!holding) continue;
      const spread = Z80 * Math.sqrt(Math.max(0, variance) + BEYOND_TERMS ** 2);
      out.low[i] = table.at(eta - spread);
      out.high[i] = table.at(eta + spread);
      const h = Number.isNaN(depth) ? 0 : Math.min(holding.top.length - 1, Math.round(depth / HOLDING_STEP));
      out.depthTop[i] = holding.top[h];
      out.depthBottom[i] = holding.bottom[h];
    }
    return out;
  }

  /** What a cell adds on a day to what follows from its depth: what lasts of its strategies, how wind-blown and open it is, its hardness. */
  private ownOf(day: DesignDay): Own {
    const { beta, covariance, spec } = this.model;
    const kept = Math.round(Math.sqrt(covariance.length));
    const { strategies, wind, 'bottom by temperature': bottom } = this.design.start;
    const bait = strategies + STRATEGIES.indexOf('bait');
    const [warm, warmth] = hatAt(spec.splines.temperature, day.surface);
    const columns: Own['columns'] = [
      ...STATIC_SCALED_BY_DAY.map((strategy): Own['columns'][number] => [[strategies + STRATEGIES.indexOf(strategy), 1]]),
      [
        [bait, baitWind(day.strategy)],
        [wind, 1],
      ],
      [[wind + 1, 1]],
      [
        [bottom + warm, warmth[0]],
        [bottom + warm + 1, warmth[1]],
      ],
      ...this.sidesOf(day),
    ];
    const between = (one: Own['columns'][number], other: Own['columns'][number]): number =>
      one.reduce((sum, [a, u]) => other.reduce((s, [b, v]) => s + u * v * covariance[a * kept + b], sum), 0);
    const prior = (column: number): number => day.strategy.weights[column - strategies] ?? 0;
    return {
      columns,
      coefficients: Float64Array.from(columns, (parts) => parts.reduce((sum, [c, v]) => sum + v * (beta[c] + prior(c)), 0)),
      // Half of the variance of what a cell adds: each pair once, its own with half its weight.
      among: Float64Array.from(columns.flatMap((one, j) => columns.map((other, k) => between(one, other) * (j === k ? 0.5 : 1)))),
    };
  }

  /** What the sides of running water add: each its own column, those of the strategy of current with it. A fit without such water has the strategy alone. */
  private sidesOf({ strategy }: DesignDay): Own['columns'] {
    if (!strategy.stream) return [];
    const { start, spec } = this.design;
    const column = start.strategies + STRATEGIES.indexOf('current');
    const bySide = [0, ...currentSides(strategy)];
    return STREAM_SIDES.map((_, k): Own['columns'][number] => [
      ...(bySide[k] ? [[column, bySide[k]] as [number, number]] : []),
      ...(spec.running ? [[start.stream + k, 1] as [number, number]] : []),
    ]);
  }

  /** What follows on a day from the depth alone, a row a step of depth. */
  private byDepth(day: DesignDay, { columns }: Own, intervals: boolean): DepthRows {
    const { model, cells, design } = this;
    const { beta, covariance } = model;
    const kept = Math.round(Math.sqrt(covariance.length));
    const deepest = cells.depth.reduce((most, d) => (d > most ? d : most), 0);
    const count = Math.ceil(deepest / DEPTH_STEP) + 2;
    const [row, read] = [new SparseRow(), new SparseRow()];
    const out: DepthRows = {
      rate: new Float64Array(count),
      variance: new Float64Array(count),
      withOwn: new Float64Array(count * columns.length),
      times: new Float64Array(count * STATIC_SCALED_BY_DAY.length),
      from: new Int32Array(count + 1),
      index: new Int32Array(count * this.withDay.width),
      value: new Float64Array(count * this.withDay.width),
    };
    for (let b = 0; b < count; b++) {
      const depth = b * DEPTH_STEP;
      row.n = 0;
      STRATEGIES.forEach((strategy, k) => {
        const [added, times] = strategyOfDepth(strategy, day.strategy, depth);
        row.add(design.start.strategies + k, added);
        out.rate[b] += day.strategy.weights[k] * added;
        const scaled = STATIC_SCALED_BY_DAY.indexOf(strategy);
        if (scaled >= 0) out.times[b * STATIC_SCALED_BY_DAY.length + scaled] = times;
      });
      design.addOfDepth(row, depth, day);
      for (let a = 0; a < row.n; a++) {
        const [ia, va] = [row.index[a], row.value[a]];
        out.rate[b] += va * beta[ia];
        if (!intervals) continue;
        const base = ia * kept;
        out.variance[b] += va * va * covariance[base + ia];
        for (let c = 0; c < a; c++) out.variance[b] += 2 * va * row.value[c] * covariance[base + row.index[c]];
        columns.forEach((parts, j) => {
          for (const [c, v] of parts) out.withOwn[b * columns.length + j] += va * v * covariance[base + c];
        });
      }
      if (!intervals) continue;
      this.withDay.fillOfDepth(read, depth, day);
      out.index.set(read.index.subarray(0, read.n), out.from[b]);
      out.value.set(read.value.subarray(0, read.n), out.from[b]);
      out.from[b + 1] = out.from[b] + read.n;
    }
    return out;
  }
}

/** What a cell adds on a day by itself, each as columns of the design with what they are multiplied by. */
interface Own {
  columns: [column: number, times: number][][];
  coefficients: Float64Array;
  among: Float64Array;
}

interface DepthRows {
  rate: Float64Array;
  variance: Float64Array;
  /** Covariance with each of what a cell adds. */
  withOwn: Float64Array;
  /** How much what lasts of the strategies counts. */
  times: Float64Array;
  /** How much of each entry of a cell's row with the day it adds, row by row. */
  from: Int32Array;
  index: Int32Array;
  value: Float64Array;
}

/** Forecasts one day for every cell of a water. For several days keep a Predictor. */
export const predict = (model: Model, cells: CellTable, day: Day): Forecast => new Predictor(model, cells).on(day);
