import type { CellTable } from '../chart';
import { cellKey } from '../geo';

const SIDES = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;

/** Index of each cell of a chart by its key. */
export const indexCells = (cells: CellTable): Map<number, number> =>
  new Map(Array.from({ length: cells.count }, (_, i) => [cellKey(cells.column[i], cells.row[i]), i]));

/** The cells that hang together side by side with a first one, nearest first. @param belongs which cells may join @param most no more than so many */
export function regionFrom(
  start: number,
  cells: CellTable,
  indexOf: Map<number, number>,
  belongs: (cell: number) => boolean,
  most = Infinity,
): Set<number> {
  const inside = new Set([start]);
  for (const i of inside) {
    if (inside.size >= most) break;
    for (const [dc, dr] of SIDES) {
      const j = indexOf.get(cellKey(cells.column[i] + dc, cells.row[i] + dr));
      if (j !== undefined && !inside.has(j) && belongs(j)) inside.add(j);
    }
  }
  return inside;
}
