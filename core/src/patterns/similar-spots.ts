import { CELL } from '../geo';
import { indexCells, placeName, regionFrom, type PlaceCode } from '../forecast';
import type { Statement } from '../statements';
import { blownBy } from './covariates';
import { coverAt } from './chart-places';
import type { LookTable } from './look-table';
import type { Moment } from './moments';

/** What likeness is judged by: traits of a place, from the chart and the wind of the moment. */
export const SIMILARITY_TRAITS = [
  'depth',
  'hardness',
  'edge',
  'slope',
  'position-near',
  'position-wide',
  'cover',
  'wood',
  'weed',
  'blown',
  'channel',
  'shore',
  'deep',
  'arm',
] as const;
export type SimilarityTrait = (typeof SIMILARITY_TRAITS)[number];
export type SimilarityWeights = Partial<Record<SimilarityTrait, number>>;

/** How much each trait counts before anybody moves it: a judgement. */
export const DEFAULT_WEIGHTS: Record<SimilarityTrait, number> = {
  depth: 3,
  hardness: 2,
  edge: 1,
  slope: 1,
  'position-near': 1,
  'position-wide': 1,
  cover: 2,
  wood: 1,
  weed: 1,
  blown: 1,
  channel: 0.5,
  shore: 0.5,
  deep: 0.5,
  arm: 0.5,
};

/** Differences that count as one step: two places a step apart in a trait are clearly different in it. */
const STEP: Record<SimilarityTrait, number> = {
  depth: 1,
  hardness: 0.2,
  edge: 30,
  slope: 4,
  'position-near': 0.4,
  'position-wide': 0.8,
  cover: 1,
  wood: 30,
  weed: 30,
  blown: 0.4,
  channel: 60,
  shore: 40,
  deep: 100,
  arm: 0.4,
};

export interface SimilarityReason {
  trait: SimilarityTrait;
  /** Value there and at the place chosen: m, %, a share or a class; NaN = not known. */
  there: number;
  here: number;
  /** Steps apart, 0 = the same. */
  apart: number;
}

/** A place like the one chosen. */
export interface SimilarSpot {
  cell: number;
  x: number;
  y: number;
  name: Statement<PlaceCode>;
  /** 0–1; 1 = the same in every trait that counts. */
  likeness: number;
  depth: number;
  /** Water in the place, m². */
  area: number;
  alike: SimilarityReason[];
  different: SimilarityReason[];
  /** Looks at the place in all of the log, targets of the species seen there, and when it was last looked at, ms. */
  looked: number;
  saw: number;
  lastLook: number | null;
  /** Never looked at, looked at without any, or with. */
  state: 'never' | 'empty' | 'held';
}

/** Values of the traits for all cells at a moment: one Float32Array a trait. */
export function traitValues(table: LookTable, moment: Moment): Record<SimilarityTrait, Float32Array> {
  const { chart } = table;
  const { cells } = chart;
  return {
    depth: cells.depth,
    hardness: cells.hardness,
    edge: cells.edgeDistance,
    slope: cells.slope.map((v) => 100 * v),
    'position-near': cells.positionNear,
    'position-wide': cells.positionWide,
    cover: Float32Array.from({ length: cells.count }, (_, i) => coverAt(cells, i)),
    wood: cells.woodDistance,
    weed: cells.weedDistance,
    blown: Float32Array.from({ length: cells.count }, (_, i) => blownBy(cells, i, moment.wind6)),
    channel: chart.channelDistance,
    shore: cells.shoreDistance,
    deep: chart.deepDistance,
    arm: chart.arm,
  };
}

/** Distances matter less the farther they are: 10 m and 40 m differ, 160 m and 190 m hardly do. */
const FADES = new Set<SimilarityTrait>(['edge', 'wood', 'weed', 'channel', 'shore', 'deep']);

/** Steps between two values of a trait; NaN where one is not known. */
export function stepsApart(trait: SimilarityTrait, a: number, b: number): number {
  if (trait === 'cover') return a === b ? 0 : 1.5;
  if (FADES.has(trait)) {
    const fade = (v: number): number => 3 * STEP[trait] * (1 - Math.exp(-v / (3 * STEP[trait])));
    return Math.abs(fade(a) - fade(b)) / STEP[trait];
  }
  // A metre at 3 m of water is more than a metre at 20 m.
  const step = trait === 'depth' ? Math.max(0.5, 0.15 * Math.max(a, b)) : STEP[trait];
  return Math.abs(a - b) / step;
}

/** Fewer places than this apart are one, m. */
const APART = 120;
const NEARLY = 0.85;

/**
 * Ranks the water by likeness to some chosen cells: a weighted mean of the steps apart in each trait (to the mean of
 * the chosen), turned into 0–1 by exp(−steps²/2). A trait that is not known at a cell does not count there.
 * @param seen looks, sightings and last look by cell
 */
export function findSimilarSpots(
  table: LookTable,
  moment: Moment,
  chosen: number[],
  weights: SimilarityWeights,
  seen: Map<number, { looked: number; saw: number; last: number }>,
  count = 12,
): { spots: SimilarSpot[]; likeness: Float32Array } {
  const { cells } = table.chart;
  const values = traitValues(table, moment);
  const wanted = SIMILARITY_TRAITS.filter((t) => (weights[t] ?? DEFAULT_WEIGHTS[t]) > 0);
  const middle = Object.fromEntries(
    wanted.map((t) => {
      const known = chosen.map((i) => values[t][i]).filter((v) => !Number.isNaN(v));
      if (t !== 'cover') return [t, known.reduce((s, v) => s + v, 0) / known.length];
      // The commonest cover, not a mean of kinds.
      const tally = [0, 1, 2].map((k) => known.filter((v) => v === k).length);
      return [t, tally.indexOf(Math.max(...tally))];
    }),
  ) as Record<SimilarityTrait, number>;
  const weightOf = (t: SimilarityTrait): number => weights[t] ?? DEFAULT_WEIGHTS[t];
  const likeness = new Float32Array(cells.count);
  for (let i = 0; i < cells.count; i++) {
    if (Number.isNaN(cells.depth[i])) continue;
    let [sum, weight] = [0, 0];
    for (const t of wanted) {
      const apart = stepsApart(t, middle[t], values[t][i]);
      if (Number.isNaN(apart)) continue;
      sum += weightOf(t) * Math.min(3, apart) ** 2;
      weight += weightOf(t);
    }
    if (weight > 0) likeness[i] = Math.exp(-sum / weight / 2);
  }
  const near = (i: number, j: number): boolean => Math.hypot(cells.column[i] - cells.column[j], cells.row[i] - cells.row[j]) * CELL < APART;
  const order = Array.from({ length: cells.count }, (_, i) => i).sort((a, b) => likeness[b] - likeness[a]);
  const best: number[] = [];
  for (const i of order) {
    if (best.length >= count || likeness[i] <= 0) break;
    if (![...best, ...chosen].some((j) => near(i, j))) best.push(i);
  }
  const indexOf = indexCells(cells);
  const line = moment.day.column.thermocline?.depth ?? null;
  return {
    likeness,
    spots: best.map((i) => {
      const inside = [...regionFrom(i, cells, indexOf, (j) => likeness[j] >= NEARLY * likeness[i] && near(i, j), 24)];
      const reasons = wanted
        .map((trait): SimilarityReason => ({
          trait,
          there: values[trait][i],
          here: middle[trait],
          apart: stepsApart(trait, middle[trait], values[trait][i]),
        }))
        .filter((r) => !Number.isNaN(r.apart));
      const tally = inside.map((j) => seen.get(j)).filter((s) => s !== undefined);
      const [looked, saw] = [tally.reduce((s, t) => s + t.looked, 0), tally.reduce((s, t) => s + t.saw, 0)];
      return {
        cell: i,
        x: (cells.column[i] + 0.5) * CELL,
        y: (cells.row[i] + 0.5) * CELL,
        name: placeName(cells, i, { thermocline: line, coast: moment.day.sort === 'coast' }),
        likeness: likeness[i],
        depth: cells.depth[i],
        area: inside.reduce((s, j) => s + cells.area[j], 0),
        alike: reasons.filter((r) => r.apart < 0.7).sort((a, b) => weightOf(b.trait) - weightOf(a.trait) || a.apart - b.apart),
        different: reasons.filter((r) => r.apart >= 0.7).sort((a, b) => weightOf(b.trait) * b.apart - weightOf(a.trait) * a.apart),
        looked,
        saw,
        lastLook: looked ? Math.max(...tally.map((t) => t.last)) : null,
        state: looked === 0 ? 'never' : saw === 0 ? 'empty' : 'held',
      };
    }),
  };
}
