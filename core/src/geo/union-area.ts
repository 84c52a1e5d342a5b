import type { Rings } from './outline';
import type { Point } from './plane';

/** A closed polygon in metres, with its bounding box. */
export interface Patch {
  points: Point[];
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

export function patch(points: Point[]): Patch {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
  }
  return { points, minX, minY, maxX, maxY };
}

/** Crossings of a level line with a polygon, or with the single edge that two points are. */
function crossings(points: Point[], y: number, into: number[]): void {
  for (let i = points.length === 2 ? 1 : 0, j = i === 1 ? 0 : points.length - 1; i < points.length; j = i++) {
    // By index: taking pairs apart costs several times the arithmetic in this innermost loop.
    const p = points[i];
    const q = points[j];
    if (p[1] > y !== q[1] > y) into.push(p[0] + ((q[0] - p[0]) * (y - p[1])) / (q[1] - p[1]));
  }
}

const ascending = (a: number, b: number): number => a - b;

/**
 * Whether a patch may reach into a box: false only when it surely does not (an edge of a convex patch has the whole
 * box on its outer side). Quick, for choosing the cells of a swath.
 */
export function mayOverlap({ points, minX, minY, maxX, maxY }: Patch, [x0, y0, x1, y1]: [number, number, number, number]): boolean {
  if (maxX <= x0 || minX >= x1 || maxY <= y0 || minY >= y1) return false;
  const n = points.length;
  let turn = 0;
  for (let i = 0; i < n; i++) {
    const a = points[i];
    const b = points[(i + 1) % n];
    const c = points[(i + 2) % n];
    const cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
    if (Math.abs(cross) < 1e-9) continue;
    if (turn !== 0 && Math.sign(cross) !== turn) return true;
    turn = Math.sign(cross);
  }
  for (let i = 0; i < n; i++) {
    const a = points[i];
    const b = points[(i + 1) % n];
    const nx = -(b[1] - a[1]) * turn;
    const ny = (b[0] - a[0]) * turn;
    // The corner of the box farthest to the inner side of this edge.
    const far = nx * ((nx > 0 ? x1 : x0) - a[0]) + ny * ((ny > 0 ? y1 : y0) - a[1]);
    if (far <= 1e-9) return false;
  }
  return true;
}

/** Longest height of a slab, m. Edges are straight, so the midpoint of a slab is exact but where edges cross inside it. */
const SLAB = 1;

/**
 * Area in m² of the union of patches inside a box and, where `water` is given, inside the water.
 * The box is cut into level slabs at every corner and at most 1 m high; in each the union of the crossings is
 * measured at half height. Exact for edges that do not cross inside a slab; otherwise within a few cm² a slab.
 * @param patches polygons (each by the even-odd rule), counted once where they overlap
 * @param box [minX, minY, maxX, maxY]
 * @param water rings of the shore that cross the box; null when all of the box is water
 */
export function unionArea(patches: Patch[], box: [number, number, number, number], water: Rings | null = null): number {
  const [x0, y0, x1, y1] = box;
  const cuts = [y0, y1];
  const cut = (points: Point[]): void => {
    for (const p of points) if (p[1] > y0 && p[1] < y1) cuts.push(p[1]);
  };
  for (const p of patches) cut(p.points);
  if (water) for (const ring of water) cut(ring);
  cuts.sort(ascending);
  let area = 0;
  const xs: number[] = [];
  for (let k = 1; k < cuts.length; k++) {
    const height = cuts[k] - cuts[k - 1];
    if (height < 1e-9) continue;
    const parts = Math.ceil(height / SLAB);
    for (let part = 0; part < parts; part++) {
      const y = cuts[k - 1] + ((part + 0.5) * height) / parts;
      const spans: [number, number][] = [];
      for (const p of patches) {
        if (y < p.minY || y > p.maxY || p.maxX <= x0 || p.minX >= x1) continue;
        xs.length = 0;
        crossings(p.points, y, xs);
        xs.sort(ascending);
        for (let i = 0; i + 1 < xs.length; i += 2) {
          const from = Math.max(x0, xs[i]);
          const to = Math.min(x1, xs[i + 1]);
          if (to > from) spans.push([from, to]);
        }
      }
      if (!spans.length) continue;
      let wet: number[] | null = null;
      if (water) {
        wet = [];
        for (const ring of water) crossings(ring, y, wet);
        wet.sort(ascending);
      }
      area += (unionLength(spans, wet) * height) / parts;
    }
  }
  return area;
}

function unionLength(spans: [number, number][], wet: number[] | null): number {
  spans.sort((a, b) => a[0] - b[0]);
  let length = 0;
  let [from, to] = spans[0];
  const close = (): void => {
    if (!wet) length += to - from;
    else for (let i = 0; i + 1 < wet.length; i += 2) length += Math.max(0, Math.min(to, wet[i + 1]) - Math.max(from, wet[i]));
  };
  for (let i = 1; i < spans.length; i++) {
    if (spans[i][0] > to) {
      close();
      [from, to] = spans[i];
    } else if (spans[i][1] > to) to = spans[i][1];
  }
  close();
  return length;
}
