import { oxygenAt, temperatureAt } from '../lake';
import { shareOf, type Share } from './numbers';
import type { LookTarget } from './look-table';
import type { Selected } from './question';

/** What is known of a target only: how its values spread, each target counted once. */
export interface TargetTrait {
  name: string;
  unit: string;
  n: number;
  /** The middle one, and between which the middle 80 % lie. */
  middle: number;
  low: number;
  high: number;
}

/** How often targets of a kind are large. */
export interface LargeLine {
  words: string;
  share: Share;
}

export interface WhereTheyHang {
  traits: TargetTrait[];
  /** Counts of words: form, side of cover, size. */
  words: { name: string; n: number; counts: { word: string; count: number }[] }[];
  /** Large ones among those whose size was said, by size of the pack, by cover and by depth of the water. */
  large: { by: string; lines: LargeLine[] }[];
}

/** Targets below which a trait is not spoken of. */
export const LEAST_HANGING = 8;

const middleOf = (t: LookTarget): number | null => (t.top == null ? null : (t.top + (t.bottom ?? t.top)) / 2);

/** The traits that only a target has: its depth, height over the bottom, the water where it hung, its words, and how large. */
export function whereTheyHang({ table, targets }: Selected): WhereTheyHang {
  const once = new Set<number>();
  const list = targets.filter((t) => !once.has(t.number) && once.add(t.number));
  const bottom = (t: LookTarget): number => t.contact?.water_depth_m ?? table.chart.cells.depth[table.cell[t.look]];
  const samples = (t: LookTarget) => table.moment[t.look].day.column.samples;
  const trait = (name: string, unit: string, value: (t: LookTarget, depth: number) => number | null): TargetTrait => {
    const values = list
      .flatMap((t) => {
        const depth = middleOf(t);
        const v = depth === null ? null : value(t, depth);
        return v === null || Number.isNaN(v) ? [] : [v];
      })
      .sort((a, b) => a - b);
    const at = (q: number): number => values[Math.min(values.length - 1, Math.round(q * (values.length - 1)))] ?? NaN;
    return { name, unit, n: values.length, middle: at(0.5), low: at(0.1), high: at(0.9) };
  };
  const counted = (name: string, word: (t: LookTarget) => string | null | undefined): WhereTheyHang['words'][number] => {
    const tally = new Map<string, number>();
    for (const t of list) {
      const w = word(t);
      if (w) tally.set(w, (tally.get(w) ?? 0) + 1);
    }
    const counts = [...tally.entries()].map(([w, count]) => ({ word: w, count })).sort((a, b) => b.count - a.count);
    return { name, n: counts.reduce((s, c) => s + c.count, 0), counts };
  };
  const largeBy = (by: string, kinds: [words: string, is: (t: LookTarget) => boolean][]): WhereTheyHang['large'][number] => ({
    by,
    lines: kinds.map(([words, is]) => ({
      words,
      share: shareOf(list.filter((t) => t.size !== null && is(t)).map((t) => ({ trip: table.trip[t.look], yes: t.size === 'large' }))),
    })),
  });
  const between = (low: number, high: number) => (t: LookTarget) => t.contact?.count != null && t.count >= low && t.count <= high;
  const deep = (low: number, high: number) => (t: LookTarget) => bottom(t) >= low && bottom(t) < high;
  const covered = (t: LookTarget): boolean => t.contact?.cover != null && t.contact.cover !== 'none';
  return {
    traits: [
      trait('depth', 'm', (_, depth) => depth),
      trait('height over the bottom', 'm', (t, depth) => Math.max(0, bottom(t) - depth)),
      trait('temperature there', '°C', (t, depth) => temperatureAt(samples(t), depth)),
      trait('oxygen there', 'mg/l', (t, depth) => oxygenAt(samples(t), depth)),
    ],
    words: [
      counted('form', (t) => t.contact?.form),
      counted('side of the cover', (t) => t.contact?.side_of_cover),
      counted('size', (t) => t.size),
    ],
    large: [
      largeBy('size of the pack', [
        ['1', between(1, 1)],
        ['2 or 3', between(2, 3)],
        ['4 to 8', between(4, 8)],
        ['9 and more', between(9, Infinity)],
      ]),
      largeBy('cover', [
        ['at cover', covered],
        ['in the open', (t) => !covered(t)],
      ]),
      largeBy('depth of the water', [
        ['under 4 m', deep(0, 4)],
        ['4 to 8 m', deep(4, 8)],
        ['8 m and more', deep(8, Infinity)],
      ]),
    ],
  };
}
