import { fitGlm, shareOf, type Share } from '../numbers';
import type { Selected } from './question';

/** Someone looked again where a target had been: after so long, with it there or not. */
export interface Return {
  trip: number;
  hours: number;
  found: boolean;
  atCover: boolean;
}

/** How long marks last, for one kind of target. */
export interface MarkLife {
  atCover: boolean;
  lines: { from: number; to: number; share: Share }[];
  /** Chance to see one of the kind on any like look: what a mark is to beat. */
  anyLook: Share;
  /** Hours after which the chance has fallen half-way to that of any look; null where the log cannot tell. */
  half: number | null;
}

const HOUR = 3_600_000;
/** A return looks within this of where the target was, m. */
export const AGAIN = 50;
const SPANS: [from: number, to: number][] = [
  [0, 1],
  [1, 4],
  [4, 12],
  [12, 72],
  [72, 240],
  [240, 960],
];
/** Returns below which a span is not spoken of. */
export const LEAST_RETURNS = 8;
/** A return counts from here: before that it is the same pass, ms. */
const FIRST = 20 * 60_000;

/**
 * All returns: for each target asked for, later visits that scanned its cell or one beside it, and whether they saw
 * one of the kind within 50 m. One return a visit.
 */
export function returnsOf(selected: Selected): Return[] {
  const { table, scans, used, targets } = selected;
  const usedAt = new Map<number, number>();
  scans.forEach((i, k) => usedAt.set(i, used[k]));
  const byCell = new Map<number, number[]>();
  const keyOf = (x: number, y: number): number => Math.floor(y / 25) * 1_048_576 + Math.floor(x / 25);
  for (const i of scans) {
    const key = keyOf(table.x[i], table.y[i]);
    const list = byCell.get(key);
    if (list) list.push(i);
    else byCell.set(key, [i]);
  }
  const out: Return[] = [];
  const done = new Set<number>();
  for (const t of targets) {
    if (done.has(t.number)) continue;
    done.add(t.number);
    const [x, y] = [table.x[t.look], table.y[t.look]];
    // Later looks near by, gathered into visits: of one trip, an hour apart at least.
    const later: number[] = [];
    for (let dr = -2; dr <= 2; dr++)
      for (let dc = -2; dc <= 2; dc++)
        for (const i of byCell.get(keyOf(x + dc * 25, y + dr * 25)) ?? [])
          if (table.from[i] > t.at + FIRST && Math.hypot(table.x[i] - x, table.y[i] - y) <= AGAIN) later.push(i);
    later.sort((a, b) => table.from[a] - table.from[b]);
    const atCover = t.contact?.cover != null && t.contact.cover !== 'none';
    let visit: { trip: number; last: number; row: Return; near: boolean } | null = null;
    const close = (): void => {
      if (visit?.near) out.push(visit.row);
    };
    for (const i of later) {
      if (!visit || visit.trip !== table.trip[i] || table.from[i] - visit.last > HOUR) {
        close();
        visit = {
          trip: table.trip[i],
          last: table.from[i],
          near: false,
          row: { trip: table.trip[t.look], hours: (table.from[i] - t.at) / HOUR, found: false, atCover },
        };
      }
      visit.last = table.from[i];
      // It must have been looked at where it was, not only beside it.
      if (Math.hypot(table.x[i] - x, table.y[i] - y) <= 15) visit.near = true;
      if (usedAt.get(i)! > 0) visit.row.found = true;
    }
    close();
  }
  return out;
}

/** How long marks last, for targets at cover and in the open apart. */
export function markLives(selected: Selected): MarkLife[] {
  const returns = returnsOf(selected);
  const { table, scans, used } = selected;
  // Any look: the chance to see one within the same reach, over all visits' places.
  const visits = new Map<string, { trip: number; yes: boolean }>();
  scans.forEach((i, k) => {
    const key = `${table.trip[i]} ${Math.floor(table.x[i] / (2 * AGAIN))} ${Math.floor(table.y[i] / (2 * AGAIN))} ${Math.floor(table.from[i] / HOUR)}`;
    const visit = visits.get(key) ?? { trip: table.trip[i], yes: false };
    visit.yes ||= used[k] > 0;
    visits.set(key, visit);
  });
  const anyLook = shareOf([...visits.values()]);
  return [true, false].map((atCover) => {
    const own = returns.filter((r) => r.atCover === atCover);
    return {
      atCover,
      lines: SPANS.map(([from, to]) => ({
        from,
        to,
        share: shareOf(own.filter((r) => r.hours >= from && r.hours < to).map((r) => ({ trip: r.trip, yes: r.found }))),
      })),
      anyLook,
      half: halfLife(own, anyLook.share),
    };
  });
}

/** Hours at which a logistic curve on the logarithm of the time has fallen half-way from its start (1 h) to the chance of any look. */
function halfLife(returns: Return[], floor: number): number | null {
  const found = returns.filter((r) => r.found).length;
  if (returns.length < 4 * LEAST_RETURNS || found < LEAST_RETURNS || returns.length - found < LEAST_RETURNS) return null;
  try {
    const { beta, error } = fitGlm(
      returns.map((r) => [1, Math.log(Math.max(0.3, r.hours))]),
      returns.map((r) => (r.found ? 1 : 0)),
      'yes or no',
    );
    const start = 1 / (1 + Math.exp(-beta[0]));
    const goal = (start + floor) / 2;
    if (!(beta[1] + error[1] < 0) || !(start > floor)) return null;
    const hours = Math.exp((Math.log(goal / (1 - goal)) - beta[0]) / beta[1]);
    return hours < 2000 ? hours : null;
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}
