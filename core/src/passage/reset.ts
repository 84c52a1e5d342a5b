import type { CellTable } from '../chart';
import { CELL } from '../geo';
import { fetchToward } from '../forecast';

/** What may be different about fish that were not found: each names other water, or another hour. */
export const HYPOTHESES = [
  'deeper',
  'shallower',
  'wind-blown',
  'sheltered',
  'hard',
  'weed',
  'timber',
  'open-water',
  'current',
  'shade',
  'other-hour',
] as const;
export type Hypothesis = (typeof HYPOTHESES)[number];

/** What was looked at today on a cell: cells' worth of scans, or of fishing that tells as much. */
export interface TestedCell {
  cell: number;
  effort: number;
}

export interface ResetInputs {
  cells: CellTable;
  /** Chance of each cell by the forecast, with what was seen today, and by the strategies alone; each 0–1. */
  forecast: ArrayLike<number>;
  strategies: ArrayLike<number>;
  tested: TestedCell[];
  windFrom: number;
  windSpeed: number;
  /** Height of the sun, degrees. */
  sun: number;
  /** Best mean chance of the hours to come over that of now; null where no hour is left. */
  laterHours: number | null;
  /** Depth the species holds at today, m: deeper and shallower are told from it where nothing was tried. */
  holding: number;
}

export interface HypothesisAccount {
  hypothesis: Hypothesis;
  /** Cells that belong to it. */
  cells: number;
  /** How much of its best water was tested today, 0–1. */
  tested: number;
  /** What forecast and strategies give its best water, against the best of the whole water: 1 = as good. */
  value: number;
  /** What is left to gain: value of what was not tested. */
  score: number;
  /** Its best cells not yet tested, apart from each other, best first. */
  best: number[];
}

/** Best water of a hypothesis: so many cells. What a boat looks at in half a day. */
const BEST = 40;
/** A wind weaker than this has no blown side, m/s. */
const CALM = 1.5;
/** Stops of a hypothesis lie so far apart, m. */
const APART = 150;

function middleDepths(cells: CellTable, tested: TestedCell[], holding: number): [number, number] {
  const depths = tested
    .filter((t) => t.effort > 0.1)
    .map((t) => cells.depth[t.cell])
    .filter((d) => d > 0)
    .sort((a, b) => a - b);
  if (depths.length < 5) return [holding, holding];
  return [depths[Math.floor(depths.length * 0.25)], depths[Math.floor(depths.length * 0.75)]];
}

/** Which cells a hypothesis names; none where the day does not know it. */
function membership({ cells, tested, windFrom, windSpeed, sun, holding }: ResetInputs): Record<Hypothesis, (i: number) => boolean> {
  const [shallow, deep] = middleDepths(cells, tested, holding);
  const blown = (i: number): number => fetchToward(cells, i, windFrom) - fetchToward(cells, i, windFrom + 180);
  const none = (): boolean => false;
  return {
    deeper: (i) => cells.depth[i] > deep + 1,
    shallower: (i) => cells.depth[i] < shallow - 1,
    'wind-blown': windSpeed < CALM ? none : (i) => blown(i) > 300 && cells.shoreDistance[i] < 150,
    sheltered: windSpeed < CALM ? none : (i) => blown(i) < -300 && cells.shoreDistance[i] < 150,
    hard: (i) => cells.hardness[i] > 0.6,
    weed: (i) => cells.weedDistance[i] < CELL,
    timber: (i) => cells.woodDistance[i] < CELL,
    'open-water': (i) => cells.depth[i] > holding + 3 && cells.shoreDistance[i] > 100,
    current: (i) => cells.positionWide[i] < -1,
    shade: sun < 15 ? none : (i) => (cells.woodDistance[i] < 15 || cells.shoreDistance[i] < 20) && cells.depth[i] < holding + 2,
    'other-hour': none,
  };
}

/**
 * What has not been tested yet, best first: by how little of each hypothesis' best water was looked at today, times what the forecast
 * and the strategies give that water. Two layers of chances are joined by their geometric mean, each against its own best.
 */
export function accountOf(inputs: ResetInputs): HypothesisAccount[] {
  const { cells, forecast, strategies, tested, laterHours } = inputs;
  const of = membership(inputs);
  const effort = new Float64Array(cells.count);
  for (const t of tested) effort[t.cell] += t.effort;
  const joined = joinedValue(forecast, strategies, cells);
  const top = (list: number[]): number => list.slice(0, BEST).reduce((s, i) => s + joined[i], 0);
  const charted = Array.from({ length: cells.count }, (_, i) => i).filter((i) => cells.depth[i] > 0 && cells.area[i] > 0);
  const ranked = [...charted].sort((a, b) => joined[b] - joined[a]);
  const whole = Math.max(1e-12, top(ranked));
  const share = (list: number[]): number => {
    const best = list.slice(0, BEST);
    const all = best.reduce((s, i) => s + joined[i], 0);
    // Looks elsewhere in the same kind of water count as well, as much as that water is worth.
    const done = list.reduce((s, i) => s + (effort[i] > 0 ? joined[i] * -Math.expm1(-effort[i]) : 0), 0);
    return all > 0 ? Math.min(1, done / all) : 0;
  };
  return HYPOTHESES.map((hypothesis): HypothesisAccount => {
    if (hypothesis === 'other-hour') {
      const value = laterHours === null ? 0 : Math.min(2, laterHours);
      const testedNow = share(ranked);
      return {
        hypothesis,
        cells: 0,
        tested: testedNow,
        value,
        // Only better hours to come speak for it, the more so the more was tried now.
        score: Math.max(0, value - 1) * testedNow,
        best: apart(ranked, cells),
      };
    }
    const own = ranked.filter(of[hypothesis]);
    const value = own.length < 4 ? 0 : (top(own) / whole) * (BEST / Math.max(BEST / 2, Math.min(BEST, own.length)));
    const done = share(own);
    return {
      hypothesis,
      cells: own.length,
      tested: done,
      value,
      score: value * (1 - done),
      best: apart(
        own.filter((i) => effort[i] < 0.3),
        cells,
      ),
    };
  }).sort((a, b) => b.score - a.score);
}

function joinedValue(forecast: ArrayLike<number>, strategies: ArrayLike<number>, cells: CellTable): Float64Array {
  let [f, s] = [1e-9, 1e-9];
  for (let i = 0; i < cells.count; i++) {
    if (!(cells.depth[i] > 0)) continue;
    f = Math.max(f, forecast[i] || 0);
    s = Math.max(s, strategies[i] || 0);
  }
  return Float64Array.from({ length: cells.count }, (_, i) =>
    Math.sqrt((Math.max(0, forecast[i] || 0) / f) * (Math.max(0, strategies[i] || 0) / s)),
  );
}

function apart(ranked: number[], cells: CellTable, most = 6): number[] {
  const out: number[] = [];
  for (const i of ranked) {
    if (out.length >= most) break;
    if (out.every((j) => Math.hypot(cells.column[i] - cells.column[j], cells.row[i] - cells.row[j]) * CELL >= APART)) out.push(i);
  }
  return out;
}

/**
 * The next three stops after a blank: of the best hypothesis, the nearest of its best; where it has fewer, of the next ones.
 * @param travel minutes to a cell; infinite where no way leads
 */
export function nextThree(
  account: HypothesisAccount[],
  travel: (cell: number) => number,
  value: (cell: number) => number,
): { cell: number; hypothesis: Hypothesis }[] {
  const out: { cell: number; hypothesis: Hypothesis }[] = [];
  for (const { hypothesis, best, score } of account) {
    if (score <= 0) break;
    const worth = (i: number): number => value(i) / (15 + travel(i));
    for (const cell of [...best].filter((i) => Number.isFinite(travel(i))).sort((a, b) => worth(b) - worth(a))) {
      if (out.length === 3) return out;
      if (!out.some((o) => o.cell === cell)) out.push({ cell, hypothesis });
    }
  }
  return out;
}
