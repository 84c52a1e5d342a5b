import type { CellTable } from '../chart';
import { statement, type Statement } from '../statements';
import { STRATEGIES, strategyScore, shownOfColumn, windBlown, type Strategy } from './strategies';
import { SLACK } from '../tide';
import { STREAM_SIDES, streamSides } from './stream-sides';
import { Design, SparseRow, type DesignDay } from './design';
import { declared } from './terms';

/** What speaks for or against a place, in the field's terms. */
export const FACTORS = ['depth', 'thermocline', 'bottom', 'shape', 'cover', 'wind', 'current', 'quiet', 'log', 'today'] as const;
export type Factor = (typeof FACTORS)[number];

export type ReasonCode =
  | 'reason.depth.suits'
  | 'reason.depth.shallow'
  | 'reason.depth.deep'
  | 'reason.window.inside'
  | 'reason.window.outside'
  | 'reason.thermocline.over'
  | 'reason.thermocline.below'
  | 'reason.thermocline.just'
  | 'reason.thermocline.well'
  | 'reason.bottom.unknown'
  | 'reason.bottom'
  | 'reason.bottom.edge'
  | 'reason.shape.rise'
  | 'reason.shape.small'
  | 'reason.shape.hole'
  | 'reason.shape.slope'
  | 'reason.shape.good'
  | 'reason.shape.flat'
  | 'reason.timber.here'
  | 'reason.timber.near'
  | 'reason.reef.here'
  | 'reason.reef.near'
  | 'reason.weed.here'
  | 'reason.weed.near'
  | 'reason.cover.none'
  | 'reason.wind.blown'
  | 'reason.wind.sheltered'
  | 'reason.wind.neither'
  | 'reason.current.up'
  | 'reason.current.down'
  | 'reason.current.slack'
  | 'reason.current.seam'
  | 'reason.current.eddy'
  | 'reason.current.runs'
  | 'reason.shore.away'
  | 'reason.shore.close'
  | 'reason.log.more'
  | 'reason.log.less'
  | 'reason.today.seen'
  | 'reason.today.fewer';

/** One factor's share in a place, on the log scale against the water's mean, and what it says. */
export interface Reason {
  factor: Factor;
  effect: number;
  says: Statement<ReasonCode>;
}

const OF_STRATEGY: Record<Strategy, Factor> = {
  depth: 'depth',
  comfort: 'thermocline',
  bottom: 'bottom',
  structure: 'shape',
  cover: 'cover',
  bait: 'wind',
  current: 'current',
  quiet: 'quiet',
  known: 'shape',
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
      const factor = declared(term.name).explains;
      if (factor) this.factorOf.fill(FACTORS.indexOf(factor), term.start, term.start + term.count);
      if (term.name === 'strategies')
        STRATEGIES.forEach((strategy, k) => (this.factorOf[term.start + k] = FACTORS.indexOf(OF_STRATEGY[strategy])));
    }
  }

  of(cell: number): Float64Array {
    const out = new Float64Array(FACTORS.length);
    STRATEGIES.forEach((strategy, k) => {
      out[FACTORS.indexOf(OF_STRATEGY[strategy])] +=
        this.day.strategy.weights[k] * strategyScore(strategy, this.day.strategy, this.design.cells, cell);
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

/** Cover of a kind so many metres off, to the next five. */
const near = (kind: 'timber' | 'reef' | 'weed', off: number): Statement<ReasonCode> =>
  off < 5 ? statement(`reason.${kind}.here`) : statement(`reason.${kind}.near`, { within: Math.ceil(off / 5) * 5 });

/** What a factor of a cell says; `good` tells whether it speaks for the place. */
function says(factor: Factor, good: boolean, cells: CellTable, i: number, day: DesignDay, species: string): Statement<ReasonCode> {
  const depth = cells.depth[i];
  switch (factor) {
    case 'depth':
      return good
        ? statement('reason.depth.suits', { depth, species })
        : statement(depth < day.strategy.holding ? 'reason.depth.shallow' : 'reason.depth.deep', { depth });
    case 'thermocline':
      if (day.thermocline == null) return statement(good ? 'reason.window.inside' : 'reason.window.outside');
      if (depth > day.thermocline + 1)
        return statement(good ? 'reason.thermocline.over' : 'reason.thermocline.below', { depth, thermocline: day.thermocline });
      return statement(good ? 'reason.thermocline.just' : 'reason.thermocline.well', { thermocline: day.thermocline });
    case 'bottom': {
      const edge = cells.edgeDistance[i] < 40;
      if (Number.isNaN(cells.hardness[i])) return statement('reason.bottom.unknown');
      const kind = cells.hardness[i] > 0.6 ? 'hard' : cells.hardness[i] < 0.35 ? 'soft' : 'firm';
      return statement(edge ? 'reason.bottom.edge' : 'reason.bottom', { kind });
    }
    case 'shape': {
      const [near, wide, slope] = [cells.positionNear[i], cells.positionWide[i], cells.slope[i]];
      if (near > 0.35 && wide > 0.8) return statement('reason.shape.rise', { rise: wide });
      if (near > 0.25) return statement('reason.shape.small');
      if (wide < -1.2) return statement('reason.shape.hole');
      if (slope > 0.08) return statement('reason.shape.slope', { percent: Math.round(slope * 100) });
      return statement(good ? 'reason.shape.good' : 'reason.shape.flat');
    }
    case 'cover': {
      const [wood, weed] = [cells.woodDistance[i], cells.weedDistance[i]];
      if (wood < 60 && wood <= weed) return near(day.coast ? 'reef' : 'timber', wood);
      if (weed < 60) return near('weed', weed);
      return statement('reason.cover.none');
    }
    case 'wind': {
      const w = windBlown(cells, i, day.strategy.windFrom, day.strategy.windSpeed);
      return statement(w > 0.15 ? 'reason.wind.blown' : w < -0.15 ? 'reason.wind.sheltered' : 'reason.wind.neither');
    }
    case 'current': {
      const { stream } = day.strategy;
      if (!stream || stream.rate < SLACK) return statement('reason.current.slack');
      const [, face, cover, , , seam, eddy] = streamSides(new Float64Array(STREAM_SIDES.length), cells, i, stream);
      const side = Math.abs(cover) > Math.abs(face) ? cover : face;
      if (eddy > 0) return statement('reason.current.eddy');
      if (seam > 0.3) return statement('reason.current.seam');
      if (Math.abs(side) < 0.12) return statement('reason.current.runs', { rate: stream.rate });
      return statement(side > 0 ? 'reason.current.up' : 'reason.current.down', { of: side === cover ? 'cover' : 'rise' });
    }
    case 'quiet':
      return statement(good ? 'reason.shore.away' : 'reason.shore.close');
    case 'log':
      return statement(good ? 'reason.log.more' : 'reason.log.less');
    case 'today':
      return statement(good ? 'reason.today.seen' : 'reason.today.fewer');
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
    return { factor, effect, says: says(factor, effect > 0, cells, i, day, species) };
  })
    .filter((r) => Math.abs(r.effect) >= 0.05)
    .sort((a, b) => Math.abs(b.effect) - Math.abs(a.effect));
}
