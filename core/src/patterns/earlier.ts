import type { LookTable } from './look-table';

const HOUR = 3_600_000;
/** Bait that was seen this long ago still counts as seen earlier, ms. */
const BAIT_LASTS = 24 * HOUR;
/** What lies nearer in time than this was seen in one go, and is no forewarning, ms. */
const ONE_GO = 10 * 60_000;

/** Things in squares, found by place. */
class Near {
  private readonly squares = new Map<number, number[]>();
  constructor(private readonly side: number) {}
  add(x: number, y: number, thing: number): void {
    const key = Math.floor(y / this.side) * 1_048_576 + Math.floor(x / this.side);
    const list = this.squares.get(key);
    if (list) list.push(thing);
    else this.squares.set(key, [thing]);
  }
  /** Calls back for all things in the squares that a circle touches, newest first in each; `enough` ends it, `old` ends the square. */
  each(x: number, y: number, radius: number, visit: (thing: number) => 'next' | 'old' | 'enough'): void {
    const index = (v: number): number => Math.floor(v / this.side);
    for (let r = index(y - radius); r <= index(y + radius); r++)
      for (let c = index(x - radius); c <= index(x + radius); c++) {
        const list = this.squares.get(r * 1_048_576 + c);
        for (let k = (list?.length ?? 0) - 1; k >= 0; k--) {
          const answer = visit(list![k]);
          if (answer === 'enough') return;
          if (answer === 'old') break;
        }
      }
  }
}

/**
 * Fills in whether bait had been seen within 50 and 200 m in the day before each look, in time order, so that bait
 * logged together with the fish does not foretell them. Where nobody had looked it is not known.
 */
export function baitBefore(table: LookTable): void {
  const order = Array.from({ length: table.count }, (_, i) => i).sort((a, b) => table.from[a] - table.from[b]);
  const bait = table.targets.map((t, k) => ({ k, at: t.at })).filter(({ k }) => table.targets[k].kind === 'bait');
  bait.sort((a, b) => a.at - b.at);
  const [seen, looked] = [new Near(200), new Near(200)];
  let [b, l] = [0, 0];
  for (const i of order) {
    const until = table.from[i] - ONE_GO;
    for (; b < bait.length && bait[b].at <= until; b++) {
      const at = table.targets[bait[b].k].look;
      seen.add(table.x[at], table.y[at], bait[b].k);
    }
    for (; l < order.length && table.to[order[l]] <= until; l++)
      if (table.kind[order[l]] === 0) looked.add(table.x[order[l]], table.y[order[l]], order[l]);
    for (const [radius, into] of [
      [50, table.bait50],
      [200, table.bait200],
    ] as const) {
      const near = (j: number): boolean => Math.hypot(table.x[j] - table.x[i], table.y[j] - table.y[i]) <= radius;
      seen.each(table.x[i], table.y[i], radius, (k) => {
        const t = table.targets[k];
        if (t.at < table.from[i] - BAIT_LASTS) return 'old';
        if (!near(t.look)) return 'next';
        into[i] = 1;
        return 'enough';
      });
      if (into[i] === 1) continue;
      looked.each(table.x[i], table.y[i], radius, (j) => {
        if (table.to[j] < table.from[i] - BAIT_LASTS) return 'old';
        if (!near(j)) return 'next';
        into[i] = 0;
        return 'enough';
      });
    }
  }
}

/** Fills in the days since each look's cell was last fished, on an earlier stop. */
export function lastFished(table: LookTable): void {
  const last = new Map<number, number>();
  const order = Array.from({ length: table.count }, (_, i) => i).sort((a, b) => table.from[a] - table.from[b]);
  for (const i of order) {
    const before = last.get(table.cell[i]);
    if (before !== undefined && before < table.from[i]) table.fishedBefore[i] = (table.from[i] - before) / (24 * HOUR);
    if (table.kind[i] === 1 && table.effort[i] > 0) last.set(table.cell[i], Math.max(before ?? 0, table.to[i]));
  }
}
