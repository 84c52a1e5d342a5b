import type { CellTable } from '../chart';
import { hatAt, splineAt } from './basis';
import { depthScale, type Design, type DesignDay, type SparseRow } from './design';
import { schoolOfDepth, SCHOOLS, WHOLLY_LASTING } from './schools';

/** The schools that say something of a cell by the day; what the others say lasts. */
const DAILY = SCHOOLS.filter((school) => !WHOLLY_LASTING.includes(school));

/**
 * How what lasts at each cell varies together with what a day adds there, a short row a cell: what hangs on the cell's own
 * depth and hardness is gathered up once, so that a day need not read a column for each depth there is.
 */
export class CellsWithDay {
  /** Covariances, row by row. */
  readonly values: Float32Array;
  readonly width: number;
  /** First entries of a row, by what of the day they stand for. */
  private readonly entry: Record<'schools' | 'wind' | 'trend' | 'sun' | 'temperature' | 'thermocline' | 'light', number>;

  /** Columns of the covariance, and those of the schools among them. */
  private readonly kept: number;
  private readonly schools: number[];

  constructor(
    private readonly design: Design,
    private readonly cells: CellTable,
    private readonly covariance: Float32Array,
  ) {
    const { temperature, aboveThermocline, light } = design.spec.splines;
    const schools = DAILY.length;
    this.entry = {
      schools: 0,
      wind: schools,
      trend: schools + 2,
      sun: schools + 3,
      temperature: schools + 4,
      thermocline: schools + 4 + temperature.count,
      light: schools + 4 + temperature.count + aboveThermocline.count,
    };
    this.width = this.entry.light + light.count;
    this.values = new Float32Array(cells.count * this.width);
    this.kept = Math.round(Math.sqrt(covariance.length));
    this.schools = DAILY.map((school) => design.start.schools + SCHOOLS.indexOf(school));
  }

  /** Works a cell's row out. @param row what lasts at the cell */
  set(i: number, row: SparseRow): void {
    const { design, cells, covariance, values, entry } = this;
    const depth = cells.depth[i];
    if (Number.isNaN(depth)) return;
    const { start, spec } = design;
    const { depthCoarse, temperature, aboveThermocline, light } = spec.splines;
    const { kept, schools } = this;
    const [a, wa] = hatAt(depthCoarse, depthScale(depth));
    const hard = Number.isNaN(cells.hardness[i]) ? 0 : cells.hardness[i] - 0.4;
    const own = i * this.width;
    for (let r = 0; r < row.n; r++) {
      const [v, base] = [row.value[r], row.index[r] * kept];
      const at = (column: number): number => v * covariance[base + column];
      for (let k = 0; k < schools.length; k++) values[own + entry.schools + k] += at(schools[k]);
      for (let k = 0; k < 2; k++) {
        values[own + entry.wind + k] += at(start.wind + k);
        values[own + entry.trend] += wa[k] * at(start['depth by trend'] + a + k);
        values[own + entry.sun] += wa[k] * at(start['depth by sun'] + a + k);
      }
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

  /** Fills a row with how much of each entry a day adds over bottoms of a depth, wind and what schools find at a cell apart. */
  fillOfDepth(row: SparseRow, depth: number, day: DesignDay): void {
    const { entry } = this;
    const { temperature, aboveThermocline, light } = this.design.spec.splines;
    row.n = 0;
    DAILY.forEach((school, k) => row.add(entry.schools + k, schoolOfDepth(school, day.school, depth)[0]));
    row.add(entry.trend, day.trend);
    row.add(entry.sun, day.lowLight);
    const [first, weights] = hatAt(temperature, day.surface);
    for (let k = 0; k < 2; k++) row.add(entry.temperature + first + k, weights[k]);
    const spline = (at: number, [from, weights]: ReturnType<typeof splineAt>): void => weights.forEach((w, k) => row.add(at + from + k, w));
    if (day.thermocline != null) spline(entry.thermocline, splineAt(aboveThermocline, day.thermocline - depth));
    spline(entry.light, splineAt(light, depth / day.secchi));
  }

  /** Entries that a cell adds to by itself: those of some schools, then of the bait's school, and the two of the wind. */
  entryOf(school: (typeof SCHOOLS)[number]): number {
    return this.entry.schools + DAILY.indexOf(school);
  }
  get wind(): number {
    return this.entry.wind;
  }
}
