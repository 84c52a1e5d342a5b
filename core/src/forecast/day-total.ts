import type { CellTable } from '../chart';
import { CELL } from '../geo';
import { hatAt } from './basis';
import type { Design, DesignDay } from './design';
import { SparseRow } from './design';
import { STREAM_SIDES, streamSides } from './stream-sides';
import { baitWind, currentSides, openToWind, staticPart, strategyOfDepth, STRATEGIES, shownOfColumn, windBlown } from './strategies';
import type { SpeciesProfile } from '../species';

/**
 * How far the fish of a water stay as many from day to day: 1 would say that what leaves one depth is all to be seen at
 * another, 0 that a day's sum over the water is whatever the terms make it. Fish do not leave a water by the week; but
 * some hang where a scan does not show them.
 */
export const STAYING = 0.8;

/** About so many cells tell the sum over a water. */
const SAMPLE = 700;
/** Step of the depths that a day is worked out for, m. */
const DEPTH_STEP = 0.25;

/** The sum of a fit's rates over a water by day, from an even sample of its cells. */
export class DayTotal {
  private readonly sample: number[] = [];
  private readonly staticSum: Float64Array;
  private readonly strategies: Float64Array;
  private deepest = 0;
  private readonly row = new SparseRow();

  constructor(
    private readonly design: Design,
    private readonly beta: Float64Array,
    private readonly cells: CellTable,
    species: SpeciesProfile,
  ) {
    const every = Math.max(1, Math.floor(cells.count / SAMPLE));
    for (let i = every >> 1; i < cells.count; i += every) if (!Number.isNaN(cells.depth[i])) this.sample.push(i);
    this.staticSum = new Float64Array(this.sample.length);
    this.strategies = new Float64Array(this.sample.length * STRATEGIES.length);
    this.sample.forEach((i, s) => {
      this.row.n = 0;
      design.addStatic(this.row, i);
      this.staticSum[s] = this.row.sumOf(this.beta, Math.log(Math.max(1, cells.area[i]) / (CELL * CELL)) + shownOfColumn(cells.depth[i]));
      STRATEGIES.forEach((strategy, k) => (this.strategies[s * STRATEGIES.length + k] = staticPart(strategy, species, cells, i)));
      this.deepest = Math.max(this.deepest, cells.depth[i]);
    });
  }

  /** Log of the mean rate of a scan of a cell over the water on a day; NaN for a water without a depth. */
  logMean(day: DesignDay): number {
    const { cells, beta, design, sample } = this;
    const { strategies, wind, 'bottom by temperature': bottom } = design.start;
    const [first, weights] = hatAt(design.spec.splines.temperature, day.surface);
    const byHardness = weights[0] * beta[bottom + first] + weights[1] * beta[bottom + first + 1];
    const { windFrom, windSpeed } = day.strategy;
    const strategyWeights = STRATEGIES.map((_, k) => day.strategy.weights[k] + beta[strategies + k]);
    const byBlown = beta[wind] + strategyWeights[STRATEGIES.indexOf('bait')] * baitWind(day.strategy);
    const { stream } = day.strategy;
    const sides = new Float64Array(STREAM_SIDES.length);
    // How much the water runs moves the fish of a place by its sides; that all of them show more or less is no more or fewer fish.
    const bySide = sides.map((_, k) => (k && design.spec.running ? beta[design.start.stream + k] : 0));
    currentSides(day.strategy).forEach((v, k) => (bySide[k + 1] += strategyWeights[STRATEGIES.indexOf('current')] * v));
    const steps = Math.ceil(this.deepest / DEPTH_STEP) + 2;
    const rate = new Float64Array(steps);
    const times = new Float64Array(steps * STRATEGIES.length);
    for (let b = 0; b < steps; b++) {
      this.row.n = 0;
      design.addOfDepth(this.row, b * DEPTH_STEP, day);
      rate[b] = this.row.sumOf(this.beta, beta[0]);
      STRATEGIES.forEach((strategy, k) => {
        const [added, by] = strategyOfDepth(strategy, day.strategy, b * DEPTH_STEP);
        rate[b] += strategyWeights[k] * added;
        times[b * STRATEGIES.length + k] = strategyWeights[k] * by;
      });
    }
    let total = 0;
    sample.forEach((i, s) => {
      const b = Math.round(cells.depth[i] / DEPTH_STEP);
      let eta = this.staticSum[s] + rate[b];
      for (let k = 0; k < STRATEGIES.length; k++) eta += times[b * STRATEGIES.length + k] * this.strategies[s * STRATEGIES.length + k];
      const hard = cells.hardness[i] - 0.4;
      if (!Number.isNaN(hard)) eta += hard * byHardness;
      eta += byBlown * windBlown(cells, i, windFrom, windSpeed) + beta[wind + 1] * openToWind(cells, i, windFrom, windSpeed);
      if (stream) {
        streamSides(sides, cells, i, stream);
        for (let k = 1; k < sides.length; k++) eta += bySide[k] * sides[k];
      }
      total += Math.exp(Math.min(6, eta));
    });
    return Math.log(total / sample.length);
  }
}

/** Change of a day's log rates that keeps the fish of a water about as many as on the log's days. @param usual the log's mean */
export const stayingShift = (logMean: number, usual: number): number => (!Number.isFinite(logMean) ? 0 : STAYING * (usual - logMean));
