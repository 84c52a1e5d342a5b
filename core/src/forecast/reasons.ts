import type { CellTable } from '../chart';
import { SCHOOLS, schoolScore, shownOfColumn, windBlown, type School } from './schools';
import { Design, SparseRow, type DesignDay, type TermName } from './design';

/** What speaks for or against a place, in the field's terms. */
export const FACTORS = ['depth', 'thermocline', 'bottom', 'shape', 'cover', 'wind', 'quiet', 'log', 'today'] as const;
export type Factor = (typeof FACTORS)[number];

/** One factor's share in a place, on the log scale against the water's mean, and its words. */
export interface Reason {
  factor: Factor;
  effect: number;
  words: string;
}

const OF_SCHOOL: Record<School, Factor> = {
  depth: 'depth',
  comfort: 'thermocline',
  bottom: 'bottom',
  structure: 'shape',
  cover: 'cover',
  bait: 'wind',
  quiet: 'quiet',
  known: 'shape',
};
/** Every term that tells one cell from another: the bars of a place have to add up to what sets it apart. */
const OF_TERM: Record<Exclude<TermName, 'schools' | 'season' | 'detection' | 'trip'>, Factor> = {
  depth: 'depth',
  'depth by temperature': 'depth',
  'depth by trend': 'depth',
  'depth by sun': 'depth',
  light: 'depth',
  thermocline: 'thermocline',
  hardness: 'bottom',
  'bottom by temperature': 'bottom',
  edge: 'bottom',
  'position near': 'shape',
  'position wide': 'shape',
  slope: 'shape',
  cover: 'cover',
  wind: 'wind',
  place: 'log',
};

/** Splits a cell's log rate by factor. */
export class Contributions {
  private readonly factorOf: Int8Array;
  private readonly row = new SparseRow();

  constructor(
    private readonly design: Design,
    private readonly beta: Float64Array,
    private readonly day: DesignDay,
  ) {
    this.factorOf = new Int8Array(design.spec.columns).fill(-1);
    for (const term of design.spec.terms) {
      const factor = (OF_TERM as Partial<Record<TermName, Factor>>)[term.name];
      if (factor) this.factorOf.fill(FACTORS.indexOf(factor), term.start, term.start + term.count);
      if (term.name === 'schools') SCHOOLS.forEach((school, k) => (this.factorOf[term.start + k] = FACTORS.indexOf(OF_SCHOOL[school])));
    }
  }

  of(cell: number): Float64Array {
    const out = new Float64Array(FACTORS.length);
    SCHOOLS.forEach((school, k) => {
      out[FACTORS.indexOf(OF_SCHOOL[school])] += this.day.school.weights[k] * schoolScore(school, this.day.school, this.design.cells, cell);
    });
    out[FACTORS.indexOf('depth')] += shownOfColumn(this.design.cells.depth[cell]);
    this.design.fill(this.row, cell, this.day, 0, -1);
    for (let k = 0; k < this.row.n; k++) {
      const f = this.factorOf[this.row.index[k]];
      if (f >= 0) out[f] += this.row.value[k] * this.beta[this.row.index[k]];
    }
    return out;
  }

  /** Mean over the water, weighted by area. */
  mean(): Float64Array {
    const { cells } = this.design;
    const total = new Float64Array(FACTORS.length);
    let area = 0;
    for (let i = 0; i < cells.count; i++) {
      area += cells.area[i];
      const own = this.of(i);
      for (let f = 0; f < own.length; f++) total[f] += own[f] * cells.area[i];
    }
    return total.map((t) => (area > 0 ? t / area : 0));
  }
}

const m = (v: number): string => `${v.toFixed(1)} m`;

/** Words for a factor of a cell; `good` says whether it speaks for the place. */
function words(factor: Factor, good: boolean, cells: CellTable, i: number, day: DesignDay, species: string): string {
  const depth = cells.depth[i];
  switch (factor) {
    case 'depth':
      return good
        ? `${m(depth)} of water, where ${species} are looked for today`
        : depth < day.school.holding
          ? `shallow at ${m(depth)}`
          : `deep at ${m(depth)}`;
    case 'thermocline':
      if (day.thermocline == null) return good ? 'inside the depths that suit' : 'outside the depths that suit';
      if (depth > day.thermocline + 1)
        return good
          ? `open water over ${m(depth)}, fish hang above the thermocline`
          : `bottom below the thermocline (${m(day.thermocline)})`;
      return good ? `just above the thermocline (${m(day.thermocline)})` : `well above the thermocline (${m(day.thermocline)})`;
    case 'bottom': {
      const edge = cells.edgeDistance[i] < 40;
      if (Number.isNaN(cells.hardness[i])) return 'bottom hardness not known';
      const kind = cells.hardness[i] > 0.6 ? 'hard bottom' : cells.hardness[i] < 0.35 ? 'soft bottom' : 'firm bottom';
      return edge ? `${kind}, where hard meets soft` : kind;
    }
    case 'shape': {
      const [near, wide, slope] = [cells.positionNear[i], cells.positionWide[i], cells.slope[i]];
      if (near > 0.35 && wide > 0.8) return `a rise ${m(wide)} above what lies round it`;
      if (near > 0.25) return 'a small rise';
      if (wide < -1.2) return 'down in the channel or a hole';
      if (slope > 0.08) return `on a slope, ${Math.round(slope * 100)} m in 100 m`;
      return good ? 'the shape of the bottom' : 'flat and featureless';
    }
    case 'cover': {
      const [wood, weed] = [cells.woodDistance[i], cells.weedDistance[i]];
      if (wood < 60 && wood <= weed) return wood < 5 ? 'timber or brush right here' : `timber or brush within ${Math.ceil(wood / 5) * 5} m`;
      if (weed < 60) return weed < 5 ? 'weed right here' : `weed within ${Math.ceil(weed / 5) * 5} m`;
      return 'no cover known near';
    }
    case 'wind': {
      const w = windBlown(cells, i, day.school.windFrom, day.school.windSpeed);
      return w > 0.15 ? 'wind-blown' : w < -0.15 ? 'sheltered from the wind' : 'neither wind-blown nor sheltered';
    }
    case 'quiet':
      return good ? 'away from the shore' : 'close to the shore';
    case 'log':
      return good ? 'your log holds more here than the rest explains' : 'your log holds less here than the rest explains';
    case 'today':
      return good ? 'fish or bait seen near here earlier today' : 'looked at near here earlier today, fewer than expected';
  }
}

/** The factors that matter at a cell, strongest first; effects under 0.05 are left out. @param moved change of each cell's log rate by what was seen earlier today */
export function reasonsFor(
  contributions: Contributions,
  mean: Float64Array,
  cells: CellTable,
  i: number,
  day: DesignDay,
  species: string,
  moved: Float32Array | null = null,
): Reason[] {
  const own = contributions.of(i);
  if (moved) own[FACTORS.indexOf('today')] = moved[i];
  return FACTORS.map((factor, f): Reason => {
    const effect = own[f] - mean[f];
    return { factor, effect, words: words(factor, effect > 0, cells, i, day, species) };
  })
    .filter((r) => Math.abs(r.effect) >= 0.05)
    .sort((a, b) => Math.abs(b.effect) - Math.abs(a.effect));
}
