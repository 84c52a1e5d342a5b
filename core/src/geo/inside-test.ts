import type { Rings } from './outline';
import type { Point } from './plane';
import { CELL, cellKey, cellOf } from './raster';

/**
 * A quick test whether a point lies inside rings, for many points of one water: what is found out for a cell without
 * shore holds for all of it. Nothing is worked out before it is asked for, however large the water is.
 */
export function insideTest(rings: Rings): (x: number, y: number) => boolean {
  /** Edges that touch a row of cells. */
  const rows = new Map<number, [Point, Point][]>();
  /** Inside, outside, or crossed by a shore. */
  const cells = new Map<number, boolean | null>();
  const edgesOf = (row: number): [Point, Point][] => {
    let edges = rows.get(row);
    if (edges) return edges;
    edges = [];
    const [y0, y1] = [row * CELL, (row + 1) * CELL];
    for (const ring of rings)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++)
        if (Math.max(ring[i][1], ring[j][1]) >= y0 && Math.min(ring[i][1], ring[j][1]) <= y1) edges.push([ring[j], ring[i]]);
    rows.set(row, edges);
    return edges;
  };
  const inside = (edges: [Point, Point][], x: number, y: number): boolean => {
    let odd = false;
    for (const [[xj, yj], [xi, yi]] of edges) if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) odd = !odd;
    return odd;
  };
  return (x, y) => {
    const [column, row] = cellOf(x, y);
    const edges = edgesOf(row);
    const key = cellKey(column, row);
    let known = cells.get(key);
    if (known === undefined) {
      const [x0, x1] = [column * CELL, (column + 1) * CELL];
      const crossed = edges.some(([a, b]) => Math.max(a[0], b[0]) >= x0 && Math.min(a[0], b[0]) <= x1);
      known = crossed ? null : inside(edges, (x0 + x1) / 2, (row + 0.5) * CELL);
      cells.set(key, known);
    }
    return known ?? inside(edges, x, y);
  };
}
