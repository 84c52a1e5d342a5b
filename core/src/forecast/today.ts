import type { CellTable } from '../chart';
import { CELL, cellKey } from '../geo';
import type { Look } from '../logbook';

/** How far what was seen earlier on a day carries: in space, in time, and against how much of the usual. */
export interface Carry {
  /** Width of the Gaussian kernel, m. */
  width: number;
  /** Hours after which a sighting counts for 1/e; infinite where the whole day counts alike. */
  hours: number;
  /** The usual counts for as many expected contacts as this. */
  steady: number;
  /** Power of the ratio of what was seen to what was expected. */
  power: number;
}

/** What a fit learned of days: how fish seen, and bait seen, earlier on a day move the rest of it; null where they do not. */
export interface TodayModel {
  fish: Carry | null;
  bait: Carry | null;
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
/** What lies closer in time belongs to the same pass, and is no earlier sighting. */
const SAME_PASS = 10 * 60_000;
const WIDTHS = [80, 160, 320, 640];
const HOURS = [2.5, Infinity];
const STEADY = [1, 3, 10, 30];
const REACH = 2.5;
/** How much better, in log likelihood, later looks must be foretold before anything is carried. */
const LEAST_GAIN = 3;

/** Sums of what was expected and seen earlier on the same trip, by kernel, for every look. */
function earlierSums(trips: DayLook[][], width: number, hours: number, of: (l: DayLook) => [number, number]): Float64Array[] {
  return trips.map((looks) => {
    const sums = new Float64Array(2 * looks.length);
    for (let j = 0; j < looks.length; j++)
      for (let i = 0; i < j; i++) {
        const gap = looks[j].at - looks[i].at;
        if (gap < SAME_PASS) break;
        const [dx, dy] = [looks[j].x - looks[i].x, looks[j].y - looks[i].y];
        const square = dx * dx + dy * dy;
        if (square > (REACH * width) ** 2) continue;
        const k = Math.exp(-square / (2 * width * width) - gap / HOUR / hours);
        const [expected, seen] = of(looks[i]);
        sums[2 * j] += k * expected;
        sums[2 * j + 1] += k * seen;
      }
    return sums;
  });
}

/** The best way to carry one kind of sighting over, given what is carried already. */
function learn(
  trips: DayLook[][],
  before: Float64Array[],
  of: (l: DayLook) => [number, number],
  powers: number[],
): { carry: Carry | null; ratios: Float64Array[] } {
  let best: { gain: number; carry: Carry; ratios: Float64Array[] } | null = null;
  for (const width of WIDTHS)
    for (const hours of HOURS) {
      const sums = earlierSums(trips, width, hours, of);
      for (const steady of STEADY)
        for (const power of powers) {
          let gain = 0;
          const ratios = trips.map((looks, t) =>
            Float64Array.from(looks, (l, j) => {
              const ratio = ((steady + sums[t][2 * j + 1]) / (steady + sums[t][2 * j])) ** power;
              const expected = l.expected * before[t][j];
              gain += l.seen * Math.log(ratio) - expected * (ratio - 1);
              return before[t][j] * ratio;
            }),
          );
          if (!best || gain > best.gain) best = { gain, carry: { width, hours, steady, power }, ratios };
        }
    }
  return best && best.gain > LEAST_GAIN ? { carry: best.carry, ratios: best.ratios } : { carry: null, ratios: before };
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
  const trips = [...byTrip.values()].map((list) => list.sort((a, b) => a.at - b.at)).slice(-MOST_TRIPS);
  const none = trips.map((list) => new Float64Array(list.length).fill(1));
  const fish = learn(trips, none, (l) => [l.expected, l.seen], [1]);
  const bait = learn(trips, fish.ratios, (l) => [l.expectedBait, l.bait], [0.25, 0.5, 1]);
  return { fish: fish.carry, bait: bait.carry, baitRate };
}

/** The newest so many trips are enough to learn from. */
const MOST_TRIPS = 30;

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
export function movedToday(
  model: TodayModel | undefined,
  earlier: SeenToday[],
  chances: Float32Array,
  cells: CellTable,
  at: number,
): Float32Array | null {
  if (!model || !earlier.length || (!model.fish && !model.bait)) return null;
  const out = new Float32Array(cells.count);
  const indexOf = new Map(Array.from({ length: cells.count }, (_, i) => [cellKey(cells.column[i], cells.row[i]), i]));
  const apply = (carry: Carry | null, of: (l: SeenToday) => [number, number]): void => {
    if (!carry) return;
    const [expected, seen] = [new Float64Array(cells.count), new Float64Array(cells.count)];
    const reach = Math.ceil((REACH * carry.width) / CELL);
    for (const look of earlier) {
      const hours = (at - look.at) / HOUR;
      if (hours < 0) continue;
      const aged = Math.exp(-hours / carry.hours);
      const [e, s] = of(look);
      for (let dr = -reach; dr <= reach; dr++)
        for (let dc = -reach; dc <= reach; dc++) {
          const i = indexOf.get(cellKey(cells.column[look.cell] + dc, cells.row[look.cell] + dr));
          if (i === undefined) continue;
          const k = aged * Math.exp(-((dc * dc + dr * dr) * CELL * CELL) / (2 * carry.width * carry.width));
          expected[i] += k * e;
          seen[i] += k * s;
        }
    }
    for (let i = 0; i < cells.count; i++) out[i] += carry.power * Math.log((carry.steady + seen[i]) / (carry.steady + expected[i]));
  };
  apply(model.fish, (l) => [-Math.log1p(-Math.min(0.99, chances[l.cell])) * l.effort, l.fish]);
  apply(model.bait, (l) => [model.baitRate * l.effort, l.bait]);
  return out;
}
