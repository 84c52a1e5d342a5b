import type { CellTable } from '../chart';
import { hatAt, splineAt } from './basis';
import { depthScale, type Design, type DesignDay, type SparseRow } from './design';
import { STREAM_SIDES } from './stream-sides';
import { strategyOfDepth, STRATEGIES, STATIC_STRATEGIES } from './strategies';

/** The strategies that say something of a cell by the day; what the others say lasts. */
const DAILY = STRATEGIES.filter((strategy) => !STATIC_STRATEGIES.includes(strategy));

/**
 * How what lasts at each cell varies together with what a day adds there, a short row a cell: what hangs on the cell's own
 * depth and hardness is gathered up once, so that a day need not read a column for each depth there is.
 */
export class CellsWithDay {
  /** Covariances, row by row. */
  readonly values: Float32Array;
  readonly width: number;
  /** First entries of a row, by what of the day they stand for. */
  private readonly entry: Record<'strategies' | 'wind' | 'stream' | 'numbers' | 'temperature' | 'thermocline' | 'light', number>;

  /** Columns of the covariance, and those of the strategies among them. */
  private readonly kept: number;
  private readonly strategies: number[];

  constructor(
    private readonly design: Design,
    private readonly cells: CellTable,
    private readonly covariance: Float32Array,
  ) {
    const { temperature, aboveThermocline, light } = design.spec.splines;
    const strategies = DAILY.length;
    const numbers = design.byDay.length;
    const stream = design.spec.running ? STREAM_SIDES.length : 0;
    const afterWind = strategies + 2 + stream;
    this.entry = {
      strategies: 0,
      wind: strategies,
      stream: strategies + 2,
      numbers: afterWind,
      temperature: afterWind + numbers,
      thermocline: afterWind + numbers + temperature.count,
      light: afterWind + numbers + temperature.count + aboveThermocline.count,
    };
    this.width = this.entry.light + light.count;
    this.values = new Float32Array(cells.count * this.width);
    this.kept = Math.round(Math.sqrt(covariance.length));
    this.strategies = DAILY.map((strategy) => design.start.strategies + STRATEGIES.indexOf(strategy));
  }

  /** Works a cell's row out. @param row what lasts at the cell */
  set(i: number, row: SparseRow): void {
    const { design, cells, covariance, values, entry } = this;
    const depth = cells.depth[i];
    if (Number.isNaN(depth)) return;
    const { start, spec, byDay } = design;
    const { depthCoarse, temperature, aboveThermocline, light } = spec.splines;
    const { kept, strategies } = this;
    const [a, wa] = hatAt(depthCoarse, depthScale(depth));
    const hard = Number.isNaN(cells.hardness[i]) ? 0 : cells.hardness[i] - 0.4;
    const own = i * this.width;
    for (let r = 0; r < row.n; r++) {
      const [v, base] = [row.value[r], row.index[r] * kept];
      const at = (column: number): number => v * covariance[base + column];
      for (let k = 0; k < strategies.length; k++) values[own + entry.strategies + k] += at(strategies[k]);
      for (let k = 0; k < 2; k++) {
        values[own + entry.wind + k] += at(start.wind + k);
        for (let t = 0; t < byDay.length; t++) values[own + entry.numbers + t] += wa[k] * at(byDay[t].start + a + k);
      }
      for (let k = entry.stream; k < entry.numbers; k++) values[own + k] += at(start.stream + k - entry.stream);
      for (let k = 0; k < temperature.count; k++)
        values[own + entry.temperature + k] +=
          at(start.season + k) +
          hard * at(start['bottom by temperature'] + k) +
          wa[0] * at(start['depth by temperature'] + a * temperature.count + k) +
          wa[1] * at(start['depth by temperature'] + (a + 1) * temperature.count + k);
      for (let k = 0; k < aboveThermocline.count; k++) values[own + entry.thermocline + k] += at(start.thermocline + k);
      for (let k = 0; k < light.count; k++) values[own + entry.light + k] += at(start.light + k);
    }
  }

  /** Fills a row with how much of each entry a day adds over bottoms of a depth, wind and what strategies find at a cell apart. */
  fillOfDepth(row: SparseRow, depth: number, day: DesignDay): void {
    const { entry } = this;
    const { temperature, aboveThermocline, light } = this.design.spec.splines;
    row.n = 0;
    DAILY.forEach((strategy, k) => row.add(entry.strategies + k, strategyOfDepth(strategy, day.strategy, depth)[0]));
    this.design.byDay.forEach(({ number }, t) => row.add(entry.numbers + t, day.numbers[number]));
    const [first, weights] = hatAt(temperature, day.surface);
    for (let k = 0; k < 2; k++) row.add(entry.temperature + first + k, weights[k]);
    const spline = (at: number, [from, weights]: ReturnType<typeof splineAt>): void => weights.forEach((w, k) => row.add(at + from + k, w));
    if (day.thermocline != null) spline(entry.thermocline, splineAt(aboveThermocline, day.thermocline - depth));
    spline(entry.light, splineAt(light, depth / day.secchi));
  }

  /** Entries that a cell adds to by itself: those of some strategies, then of the bait's strategy, and the two of the wind. */
  entryOf(strategy: (typeof STRATEGIES)[number]): number {
    return this.entry.strategies + DAILY.indexOf(strategy);
  }
  get wind(): number {
    return this.entry.wind;
  }
  /** Those of the sides of water that runs: none where the design has none. */
  get stream(): number {
    return this.entry.stream;
  }
}
