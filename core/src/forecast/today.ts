import type { CellTable } from '../chart';
import { CELL, cellKey } from '../geo';
import type { Look } from '../logbook';

/** How far what was seen earlier on a day carries: in space, in time, and against how much of the usual. */
export interface Kernel {
  /** Width of the Gaussian kernel, m. */
  width: number;
  /** Hours after which a sighting counts for 1/e; infinite where the whole day counts alike. */
  hours: number;
  /** The usual counts for as many expected contacts as this. */
  pseudoCount: number;
  /** Power of the ratio of what was seen to what was expected. */
  power: number;
}

/** What a fit learned of days: how fish seen, and bait seen, earlier on a day move the rest of it; null where they do not. */
export interface TodayModel {
  fish: Kernel | null;
  bait: Kernel | null;
  /** Balls and clouds of bait that a scan of a whole cell shows on average. */
  baitRate: number;
}

/** A look of a day: where and when, what was expected there, and what was seen. */
export interface DayLook {
  trip: number;
  x: number;
  y: number;
  /** ms */
  at: number;
  expected: number;
  seen: number;
  expectedBait: number;
  bait: number;
}

const HOUR = 3_600_000;
/** What lies closer in time, hours, belongs to the same pass, and is no earlier sighting. */
const SAME_PASS = 1 / 6;
const WIDTHS = [80, 160, 320, 640];
const HOURS = [2.5, Infinity];
const PSEUDO_COUNTS = [1, 3, 10, 30];
const REACH = 2.5;
/** How much better, in log likelihood, later looks must be foretold before anything is carried. */
const LEAST_GAIN = 3;

/** What a look counts of: fish expected and seen, bait expected and seen. */
const COUNTS = 4;
type Kind = 'fish' | 'bait';
const FIRST: Record<Kind, number> = { fish: 0, bait: 2 };

/** A trip's looks as numbers, in the order of time. */
interface DayTrip {
  n: number;
  /** Hours from the trip's first look. */
  at: Float64Array;
  x: Float64Array;
  y: Float64Array;
  counts: Float64Array;
}

function dayTrip(looks: DayLook[]): DayTrip {
  const start = looks[0].at;
  return {
    n: looks.length,
    at: Float64Array.from(looks, (l) => (l.at - start) / HOUR),
    x: Float64Array.from(looks, (l) => l.x),
    y: Float64Array.from(looks, (l) => l.y),
    counts: Float64Array.from(looks.flatMap((l) => [l.expected, l.seen, l.expectedBait, l.bait])),
  };
}

/** Steps of the table of the Gaussian, over the square of the distance to its reach. */
const GAUSS_STEPS = 2000;
const GAUSS = Float64Array.from({ length: GAUSS_STEPS + 1 }, (_, k) => Math.exp((-(k + 0.5) / GAUSS_STEPS / 2) * REACH ** 2));

/** Sums of what was expected and seen earlier on the same trip, by a kernel of each of WIDTHS and HOURS, COUNTS a look. */
function earlierSums({ n, at, x, y, counts }: DayTrip): Float64Array[][] {
  const sums = WIDTHS.map(() => HOURS.map(() => new Float64Array(COUNTS * n)));
  // Age as a quotient of two numbers of its own look each: no exponential for a pair.
  const grown = HOURS.map((hours) => Float64Array.from(at, (t) => Math.exp(t / hours)));
  const reaches = WIDTHS.map((width) => (REACH * width) ** 2);
  for (let j = 0; j < n; j++)
    for (let i = 0; i < j; i++) {
      if (at[j] - at[i] < SAME_PASS) break;
      const square = (x[j] - x[i]) ** 2 + (y[j] - y[i]) ** 2;
      // From the widest on: what one does not reach, a narrower one does not either.
      for (let w = WIDTHS.length - 1; w >= 0 && square <= reaches[w]; w--) {
        const near = GAUSS[Math.floor((square / reaches[w]) * GAUSS_STEPS)];
        for (let h = 0; h < HOURS.length; h++) {
          const k = (near * grown[h][i]) / grown[h][j];
          const own = sums[w][h];
          for (let c = 0; c < COUNTS; c++) own[COUNTS * j + c] += k * counts[COUNTS * i + c];
        }
      }
    }
  return sums;
}

/** The best way to carry one kind of sighting over, given what is carried already. @param sums by trip, width and hours */
function learn(
  trips: DayTrip[],
  sums: Float64Array[][][],
  before: Float64Array[],
  kind: Kind,
  powers: number[],
): { kernel: Kernel | null; ratios: Float64Array[] } {
  const first = FIRST[kind];
  let best: { gain: number; kernel: Kernel } | null = null;
  const ratioOf = (own: Float64Array, j: number, { pseudoCount, power }: Pick<Kernel, 'pseudoCount' | 'power'>): number =>
    ((pseudoCount + own[COUNTS * j + first + 1]) / (pseudoCount + own[COUNTS * j + first])) ** power;
  WIDTHS.forEach((width, w) =>
    HOURS.forEach((hours, h) => {
      for (const pseudoCount of PSEUDO_COUNTS)
        for (const power of powers) {
          let gain = 0;
          trips.forEach(({ n, counts }, t) => {
            const own = sums[t][w][h];
            for (let j = 0; j < n; j++) {
              const ratio = ratioOf(own, j, { pseudoCount, power });
              gain += counts[COUNTS * j + 1] * Math.log(ratio) - counts[COUNTS * j] * before[t][j] * (ratio - 1);
            }
          });
          if (!best || gain > best.gain) best = { gain, kernel: { width, hours, pseudoCount, power } };
        }
    }),
  );
  const { gain, kernel } = best!;
  if (!(gain > LEAST_GAIN)) return { kernel: null, ratios: before };
  const own = sums.map((trip) => trip[WIDTHS.indexOf(kernel.width)][HOURS.indexOf(kernel.hours)]);
  return { kernel, ratios: before.map((ratios, t) => ratios.map((r, j) => r * ratioOf(own[t], j, kernel))) };
}

/**
 * Learns from past trips how what was seen earlier on a day moves what is seen later: each look is foretold from those
 * of its trip at least ten minutes before, by a gamma–Poisson ratio (what was seen over what was expected, each with the
 * usual added) under a kernel in space and time; fish first, then bait on top of it. Nothing is carried unless it
 * foretells clearly better.
 */
export function learnToday(looks: DayLook[], baitRate: number): TodayModel {
  const byTrip = new Map<number, DayLook[]>();
  for (const look of looks) {
    const list = byTrip.get(look.trip);
    if (list) list.push(look);
    else byTrip.set(look.trip, [look]);
  }
  const trips = [...byTrip.values()].map((list) => dayTrip(list.sort((a, b) => a.at - b.at))).slice(-MOST_TRIPS);
  const sums = trips.map(earlierSums);
  const none = trips.map(({ n }) => new Float64Array(n).fill(1));
  const fish = learn(trips, sums, none, 'fish', [1]);
  const bait = learn(trips, sums, fish.ratios, 'bait', [0.25, 0.5, 1]);
  return { fish: fish.kernel, bait: bait.kernel, baitRate };
}

/** The newest so many trips are enough to learn from. */
const MOST_TRIPS = 20;

/** A look made earlier on the day that is forecast. */
export interface SeenToday {
  cell: number;
  /** ms */
  at: number;
  /** Cells' worth of scanning. */
  effort: number;
  fish: number;
  bait: number;
}

/** What looks of a day saw of a species, and of bait. @param is whether a name is the species @param indexOf cell of the chart by its key */
export const seenEarlier = (looks: Look[], is: (name: string) => boolean, indexOf: Map<number, number>): SeenToday[] =>
  looks.flatMap((look) => {
    const cell = indexOf.get(cellKey(look.column, look.row));
    if (cell === undefined || look.kind === 'troll') return [];
    return [
      {
        cell,
        at: look.from,
        effort: look.kind === 'scan' ? look.effort / (CELL * CELL) : 0,
        fish: look.targets.filter((t) => t.kind === 'fish' && t.species != null && is(t.species)).length,
        bait: look.targets.filter((t) => t.kind === 'bait').length,
      },
    ];
  });

/**
 * By how much what was seen earlier today moves the log rate of each cell.
 * @param chances what was expected of each cell before anything was seen @param at the moment forecast for, ms
 */
export function withinDayUpdate(
  model: TodayModel | undefined,
  earlier: SeenToday[],
  chances: Float32Array,
  cells: CellTable,
  at: number,
): Float32Array | null {
  if (!model || !earlier.length || (!model.fish && !model.bait)) return null;
  const out = new Float32Array(cells.count);
  const indexOf = new Map(Array.from({ length: cells.count }, (_, i) => [cellKey(cells.column[i], cells.row[i]), i]));
  const apply = (kernel: Kernel | null, of: (l: SeenToday) => [number, number]): void => {
    if (!kernel) return;
    const [expected, seen] = [new Float64Array(cells.count), new Float64Array(cells.count)];
    const reach = Math.ceil((REACH * kernel.width) / CELL);
    for (const look of earlier) {
      const hours = (at - look.at) / HOUR;
      if (hours < 0) continue;
      const aged = Math.exp(-hours / kernel.hours);
      const [e, s] = of(look);
      for (let dr = -reach; dr <= reach; dr++)
        for (let dc = -reach; dc <= reach; dc++) {
          const i = indexOf.get(cellKey(cells.column[look.cell] + dc, cells.row[look.cell] + dr));
          if (i === undefined) continue;
          const k = aged * Math.exp(-((dc * dc + dr * dr) * CELL * CELL) / (2 * kernel.width * kernel.width));
          expected[i] += k * e;
          seen[i] += k * s;
        }
    }
    for (let i = 0; i < cells.count; i++)
      out[i] += kernel.power * Math.log((kernel.pseudoCount + seen[i]) / (kernel.pseudoCount + expected[i]));
  };
  apply(model.fish, (l) => [-Math.log1p(-Math.min(0.99, chances[l.cell])) * l.effort, l.fish]);
  apply(model.bait, (l) => [model.baitRate * l.effort, l.bait]);
  return out;
}
