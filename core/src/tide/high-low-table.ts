import type { Tide, TideExtreme } from './extremes';

/** One row of a typed table. */
export interface HighOrLow {
  /** ms */
  at: number;
  /** m over the datum. */
  height: number;
}

const HOUR = 3_600_000;
/** Farther apart two rows are not neighbours: one is missing between them, unless the place has one tide a day. */
const APART = { two: 9 * HOUR, one: 16 * HOUR };

/**
 * The tide between the high and low waters of a table: half a cosine from each to the next, the rule of twelfths in closed form.
 * Of moments at which a row is missing nothing is said.
 */
export class HighLowTable implements Tide {
  private readonly rows: HighOrLow[];
  private readonly most: number;

  constructor(rows: readonly HighOrLow[]) {
    this.rows = [...rows].sort((a, b) => a.at - b.at);
    const gaps = this.rows.slice(1).map((r, i) => r.at - this.rows[i].at);
    const middle = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] ?? 0;
    this.most = middle > APART.two ? APART.one : APART.two;
  }

  height(at: number): number {
    const { rows } = this;
    let [low, high] = [0, rows.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (rows[middle].at <= at) low = middle + 1;
      else high = middle;
    }
    const [before, after] = [rows[low - 1], rows[low]];
    if (before?.at === at) return before.height;
    if (!before || !after || after.at - before.at > this.most) return NaN;
    const share = (at - before.at) / (after.at - before.at);
    return before.height + ((after.height - before.height) * (1 - Math.cos(Math.PI * share))) / 2;
  }

  turns(from: number, to: number): TideExtreme[] {
    return this.rows.flatMap(({ at, height }, i): TideExtreme[] => {
      if (at < from || at > to) return [];
      const [before, after] = [this.rows[i - 1], this.rows[i + 1]];
      const beside = after && after.at - at <= this.most ? after : before && at - before.at <= this.most ? before : null;
      return beside ? [{ at, height, high: height > beside.height }] : [];
    });
  }

  /** Spans of which it speaks, ms. */
  spans(): [from: number, to: number][] {
    const out: [number, number][] = [];
    this.rows.forEach((row, i) => {
      const last = out.at(-1);
      if (last && i > 0 && row.at - this.rows[i - 1].at <= this.most) last[1] = row.at;
      else out.push([row.at, row.at]);
    });
    return out.filter(([from, to]) => to > from);
  }
}
