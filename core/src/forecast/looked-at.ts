import { cellKey } from '../geo';
import type { Look } from '../logbook';

/** How often each cell was looked at, and which species were seen there: all that a ranking of places asks of a log. */
export interface LookedAt {
  /** Column, row and number of looks of each cell. */
  cells: [column: number, row: number, looks: number][];
  /** Looks that saw fish, by the cell's place in `cells` and the names that were seen in one look. */
  seen: [cell: number, looks: number, names: string[]][];
}

/** Counts looks by cell. */
export function lookedAt(looks: Iterable<Look>): LookedAt {
  const at = new Map<number, number>();
  const cells: LookedAt['cells'] = [];
  const seen = new Map<string, LookedAt['seen'][number]>();
  for (const { column, row, targets } of looks) {
    const key = cellKey(column, row);
    let cell = at.get(key);
    if (cell === undefined) {
      at.set(key, (cell = cells.length));
      cells.push([column, row, 0]);
    }
    cells[cell][2]++;
    const names = [...new Set(targets.flatMap((t) => (t.kind === 'fish' && t.species != null ? [t.species] : [])))].sort();
    if (!names.length) continue;
    const group = `${cell} ${names.join('\n')}`;
    const entry = seen.get(group);
    if (entry) entry[1]++;
    else seen.set(group, [cell, 1, names]);
  }
  return { cells, seen: [...seen.values()] };
}

/**
 * Looks and sightings of one species by cell of the chart.
 * @param is whether a name is that species @param indexOf cells of the chart by their key
 * @returns [cell, looks, looks that saw it]; cells outside the chart are left out
 */
export function tallyOf(
  { cells, seen }: LookedAt,
  is: (name: string) => boolean,
  indexOf: Map<number, number>,
): [cell: number, looked: number, saw: number][] {
  const saw = new Float64Array(cells.length);
  for (const [cell, looks, names] of seen) if (names.some(is)) saw[cell] += looks;
  return cells.flatMap(([column, row, looks], k): [number, number, number][] => {
    const i = indexOf.get(cellKey(column, row));
    return i === undefined ? [] : [[i, looks, saw[k]]];
  });
}
