import { oxygenAt, temperatureAt } from '../lake';
import { shareOf, type Share } from '../numbers';
import type { Label } from './label';
import { bottomOf, type LookTarget } from './look-table';
import type { Selected } from './question';

/** What is known of a target only: how its values spread, each target counted once. */
export interface TargetTrait {
  trait: 'depth' | 'height over the bottom' | 'temperature there' | 'oxygen there';
  unit: string;
  n: number;
  /** The middle one, and between which the middle 80 % lie. */
  middle: number;
  low: number;
  high: number;
}

/** How often targets of a kind are large. */
export interface LargeLine {
  label: Label;
  share: Share;
}

export interface WhereTheyHang {
  traits: TargetTrait[];
  /** Counts of the codes logged: form, side of cover, size. */
  words: { name: 'form' | 'side of the cover' | 'size'; n: number; counts: { word: string; count: number }[] }[];
  /** Large ones among those whose size was said, by size of the pack, by cover and by depth of the water. */
  large: { by: 'size of the pack' | 'cover' | 'depth of the water'; lines: LargeLine[] }[];
}

/** Targets below which a trait is not spoken of. */
export const LEAST_HANGING = 8;

const middleOf = (t: LookTarget): number | null => (t.top == null ? null : (t.top + (t.bottom ?? t.top)) / 2);

/** The traits that only a target has: its depth, height over the bottom, the water where it hung, its words, and how large. */
export function whereTheyHang({ table, targets }: Selected): WhereTheyHang {
  const once = new Set<number>();
  const list = targets.filter((t) => !once.has(t.number) && once.add(t.number));
  const bottom = (t: LookTarget): number => t.contact?.water_depth_m ?? bottomOf(table, t.look);
  const samples = (t: LookTarget) => table.moment[t.look].day.column.samples;
  const trait = (name: TargetTrait['trait'], unit: string, value: (t: LookTarget, depth: number) => number | null): TargetTrait => {
    const values = list
      .flatMap((t) => {
        const depth = middleOf(t);
        const v = depth === null ? null : value(t, depth);
        return v === null || Number.isNaN(v) ? [] : [v];
      })
      .sort((a, b) => a - b);
    const at = (q: number): number => values[Math.min(values.length - 1, Math.round(q * (values.length - 1)))] ?? NaN;
    return { trait: name, unit, n: values.length, middle: at(0.5), low: at(0.1), high: at(0.9) };
  };
  const counted = (
    name: WhereTheyHang['words'][number]['name'],
    word: (t: LookTarget) => string | null | undefined,
  ): WhereTheyHang['words'][number] => {
    const tally = new Map<string, number>();
    for (const t of list) {
      const w = word(t);
      if (w) tally.set(w, (tally.get(w) ?? 0) + 1);
    }
    const counts = [...tally.entries()].map(([w, count]) => ({ word: w, count })).sort((a, b) => b.count - a.count);
    return { name, n: counts.reduce((s, c) => s + c.count, 0), counts };
  };
  const largeBy = (
    by: WhereTheyHang['large'][number]['by'],
    kinds: [label: Label, is: (t: LookTarget) => boolean][],
  ): WhereTheyHang['large'][number] => ({
    by,
    lines: kinds.map(([label, is]) => ({
      label,
      share: shareOf(list.filter((t) => t.size !== null && is(t)).map((t) => ({ trip: table.trip[t.look], yes: t.size === 'large' }))),
    })),
  });
  const between = (low: number, high: number) => (t: LookTarget) => t.contact?.count != null && t.count >= low && t.count <= high;
  const deep = (low: number, high: number) => (t: LookTarget) => bottom(t) >= low && bottom(t) < high;
  const covered = (t: LookTarget): boolean => t.contact?.cover != null && t.contact.cover !== 'none';
  const pack = (from: number, to: number | null): Label => ({ from, to, unit: 'fish' });
  const water = (from: number | null, to: number | null): Label => ({ from, to, unit: 'm' });
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
        [pack(1, 2), between(1, 1)],
        [pack(2, 4), between(2, 3)],
        [pack(4, 9), between(4, 8)],
        [pack(9, null), between(9, Infinity)],
      ]),
      largeBy('cover', [
        ['at cover', covered],
        ['in the open', (t) => !covered(t)],
      ]),
      largeBy('depth of the water', [
        [water(null, 4), deep(0, 4)],
        [water(4, 8), deep(4, 8)],
        [water(8, null), deep(8, Infinity)],
      ]),
    ],
  };
}
