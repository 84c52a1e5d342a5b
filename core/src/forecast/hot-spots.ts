import type { CellTable } from '../chart';
import { CELL, cellKey } from '../geo';
import { indexCells } from './region';

/** What was seen and looked at in each cell, in cells scanned. */
export interface CellTally {
  seen: Float64Array;
  effort: Float64Array;
}

/** Widths that are tried, m, and how many cells' worth of the mean is added everywhere. */
const WIDTHS = [60, 120, 240];
const PSEUDO_COUNTS = [5, 20];

/** Sums over the neighbourhood of each cell with Gaussian weights, to three widths. */
function spread(values: Float64Array, cells: CellTable, indexOf: Map<number, number>, width: number): Float64Array {
  const reach = Math.ceil((2.5 * width) / CELL);
  // One direction after the other: the same sums for far less work.
  const along = (from: Float64Array, dc: number, dr: number): Float64Array => {
    const out = new Float64Array(from.length);
    for (let i = 0; i < cells.count; i++) {
      if (from[i] === 0) continue;
      for (let k = -reach; k <= reach; k++) {
        const j = indexOf.get(cellKey(cells.column[i] + k * dc, cells.row[i] + k * dr));
        if (j !== undefined) out[j] += from[i] * Math.exp(-0.5 * ((k * CELL) / width) ** 2);
      }
    }
    return out;
  };
  return along(along(values, 1, 0), 0, 1);
}

/**
 * Where the species was met before, by effort: kernel density of what was seen over kernel density of what was looked
 * at, drawn toward the mean where little was. The width and how far it is drawn are those under which one half of the
 * trips best foretold the other.
 * @returns rate of a scan of a whole cell, one a cell
 */
export function hotSpots(halves: [CellTally, CellTally], cells: CellTable): Float64Array {
  const indexOf = indexCells(cells);
  const both: CellTally = {
    seen: halves[0].seen.map((v, i) => v + halves[1].seen[i]),
    effort: halves[0].effort.map((v, i) => v + halves[1].effort[i]),
  };
  const rate = ({ seen, effort }: CellTally, width: number, pseudoCount: number): Float64Array => {
    const mean =
      seen.reduce((s, v) => s + v, 0) /
      Math.max(
        1e-9,
        effort.reduce((s, v) => s + v, 0),
      );
    const [near, looked] = [spread(seen, cells, indexOf, width), spread(effort, cells, indexOf, width)];
    return near.map((v, i) => (v + pseudoCount * mean) / (looked[i] + pseudoCount));
  };
  let best = { fit: -Infinity, width: WIDTHS[0], pseudoCount: PSEUDO_COUNTS[0] };
  for (const width of WIDTHS)
    for (const pseudoCount of PSEUDO_COUNTS) {
      let fit = 0;
      for (const [a, b] of [halves, [halves[1], halves[0]]]) {
        const r = rate(a, width, pseudoCount);
        for (let i = 0; i < r.length; i++) if (b.effort[i] > 0) fit += b.seen[i] * Math.log(Math.max(1e-9, r[i])) - r[i] * b.effort[i];
      }
      if (fit > best.fit) best = { fit, width, pseudoCount };
    }
  return rate(both, best.width, best.pseudoCount);
}
