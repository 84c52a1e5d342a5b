import type { CellTable } from '../chart';
import { CELL } from '../geo';
import { hatAt } from './basis';
import type { Design, DesignDay } from './design';
import { SparseRow } from './design';
import { STREAM_SIDES, streamSides } from './stream-sides';
import {
  baitWind,
  currentSides,
  openToWind,
  staticPart,
  STATIC_STRATEGIES,
  strategyOfDepth,
  STRATEGIES,
  shownOfColumn,
  windBlown,
} from './strategies';
import { strategySetting, type SpeciesProfile } from '../species';

/**
 * How far the fish of a water stay as many from day to day: 1 would say that what leaves one depth is all to be seen at
 * another, 0 that a day's sum over the water is whatever the terms make it. Fish do not leave a water by the week; but
 * some hang where a scan does not show them.
 */
export const STAYING = 0.8;

/** So many draws of cells tell the sum over a water. */
const SAMPLE = 2000;
/** Step of the depths that a day is worked out for, m. */
const DEPTH_STEP = 0.25;

/**
 * Cells drawn one after the other, half of them by their strength and half evenly, each with its weight in the mean over all: a few
 * cells hold most of the fish, and an even sample meets them or not by chance.
 */
function drawn(strength: Float64Array): [cell: number, weight: number][] {
  const n = strength.length;
  const sum = strength.reduce((a, b) => a + b, 0);
  const share = (i: number): number => 0.5 / n + (sum > 0 ? (0.5 * strength[i]) / sum : 0.5 / n);
  const out: [number, number][] = [];
  let upTo = 0;
  for (let i = 0; i < n; i++) {
    const p = share(i);
    upTo += p;
    // Several draws of one cell are one with their weight.
    const times = Math.min(SAMPLE, Math.floor(upTo * SAMPLE + 0.5)) - Math.min(SAMPLE, Math.floor((upTo - p) * SAMPLE + 0.5));
    if (times > 0) out.push([i, times / (SAMPLE * p * n)]);
  }
  return out;
}

/** The sum of a fit's rates over a water by day, from a sample of its cells. */
export class DayTotal {
  private readonly sample: number[];
  private readonly weight: Float64Array;
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
    const wet = Array.from({ length: cells.count }, (_, i) => i).filter((i) => !Number.isNaN(cells.depth[i]));
    const fixed = Float64Array.from(wet, (i) => {
      this.row.n = 0;
      design.addStatic(this.row, i);
      return this.row.sumOf(this.beta, Math.log(Math.max(1, cells.area[i]) / (CELL * CELL)) + shownOfColumn(cells.depth[i]));
    });
    const chosen = wet.length <= SAMPLE ? wet.map((_, k) => [k, 1 / wet.length]) : drawn(this.strengthOf(species, wet, fixed));
    this.sample = chosen.map(([k]) => wet[k]);
    this.weight = Float64Array.from(chosen, ([, weight]) => weight);
    this.staticSum = Float64Array.from(chosen, ([k]) => fixed[k]);
    this.strategies = new Float64Array(this.sample.length * STRATEGIES.length);
    this.sample.forEach((i, s) => {
      STRATEGIES.forEach((strategy, k) => (this.strategies[s * STRATEGIES.length + k] = staticPart(strategy, species, cells, i)));
      this.deepest = Math.max(this.deepest, cells.depth[i]);
    });
  }

  /** About how much each cell has of the sum, whatever the day. */
  private strengthOf(species: SpeciesProfile, wet: number[], fixed: Float64Array): Float64Array {
    const weights = STATIC_STRATEGIES.map(
      (s) => strategySetting(species, `${s}.weight`) + this.beta[this.design.start.strategies + STRATEGIES.indexOf(s)],
    );
    return Float64Array.from(wet, (i, k) => {
      const eta = STATIC_STRATEGIES.reduce((sum, s, n) => sum + weights[n] * staticPart(s, species, this.cells, i), fixed[k]);
      return Math.exp(Math.min(6, eta));
    });
  }

  /** Log of the mean rate of a scan of a cell over the water on a day; not finite for a water without a depth. */
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
      total += this.weight[s] * Math.exp(Math.min(6, eta));
    });
    return Math.log(total);
  }
}

/** Change of a day's log rates that keeps the fish of a water about as many as on the log's days. @param usual the log's mean */
export const stayingShift = (logMean: number, usual: number): number => (!Number.isFinite(logMean) ? 0 : STAYING * (usual - logMean));
