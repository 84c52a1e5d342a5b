import { CELL, Raster, WaterCells, cellCentre, parseCellKey, type Point } from '../geo';
import { bottomPositions, slope } from './shape';

/** How far a distance to cover is followed, m; beyond it the distance is this. */
export const FAR = 200;
/** Directions in which the fetch of a cell is kept: every 22.5°, clockwise from north, where the wind comes from. */
export const FETCH_DIRECTIONS = 16;

/** Cover on the water, in metres: points along it. */
export interface CoverPoints {
  kind: 'wood' | 'weed';
  points: Point[];
}

/** What does not change from day to day, one entry a 25 m cell. NaN where not known. */
export interface CellTable {
  count: number;
  column: Int32Array;
  row: Int32Array;
  /** Water in the cell, m². */
  area: Float32Array;
  /** Mean depth of the bottom below datum, m. */
  depth: Float32Array;
  /** 0 soft – 1 hard. */
  hardness: Float32Array;
  slope: Float32Array;
  /** Metres shallower than the surroundings within 50 m and within 150 m. */
  positionNear: Float32Array;
  positionWide: Float32Array;
  /** Distance to timber, brush, rock or docks, to weed, to where hard meets soft, and to the shore; m. */
  woodDistance: Float32Array;
  weedDistance: Float32Array;
  edgeDistance: Float32Array;
  shoreDistance: Float32Array;
  /** Fetch by direction, m: FETCH_DIRECTIONS entries a cell. */
  fetch: Float32Array;
}

/** Names of the per-cell columns, in the order in which they travel. */
export const CELL_COLUMNS = [
  'area',
  'depth',
  'hardness',
  'slope',
  'positionNear',
  'positionWide',
  'woodDistance',
  'weedDistance',
  'edgeDistance',
  'shoreDistance',
] as const;

/** Means of a raster over each cell. The raster's frame lies on the 25 m grid; its cells need not divide 25 m evenly. */
function meanPerCell({ x0, y0, size, width, height, data }: Raster, keys: number[]): Float32Array {
  const out = new Float32Array(keys.length);
  for (let n = 0; n < keys.length; n++) {
    const [column, row] = parseCellKey(keys[n]);
    let [sum, count] = [0, 0];
    for (let y = row * CELL + size / 2; y < (row + 1) * CELL; y += size) {
      const j = Math.floor((y - y0) / size);
      if (j < 0 || j >= height) continue;
      for (let x = column * CELL + size / 2; x < (column + 1) * CELL; x += size) {
        const i = Math.floor((x - x0) / size);
        const v = i < 0 || i >= width ? NaN : data[j * width + i];
        if (v === v) {
          sum += v;
          count++;
        }
      }
    }
    out[n] = count ? sum / count : NaN;
  }
  return out;
}

function distanceTo(points: Point[], keys: number[], indexOf: Map<number, number>): Float32Array {
  const out = new Float32Array(keys.length).fill(FAR);
  const reach = Math.ceil(FAR / CELL);
  for (const [x, y] of points) {
    const [c, r] = [Math.floor(x / CELL), Math.floor(y / CELL)];
    for (let dr = -reach; dr <= reach; dr++)
      for (let dc = -reach; dc <= reach; dc++) {
        const n = indexOf.get((r + dr) * 65536 + c + dc);
        if (n === undefined) continue;
        const [cx, cy] = cellCentre(c + dc, r + dr);
        // From the nearest point of the cell: cover anywhere in the cell is cover at the cell.
        const d = Math.hypot(Math.max(0, Math.abs(x - cx) - CELL / 2), Math.max(0, Math.abs(y - cy) - CELL / 2));
        if (d < out[n]) out[n] = d;
      }
  }
  return out;
}

/** Cells where a hard bottom (over 0.55) has a soft neighbour (under 0.45), as points. */
function hardSoftEdges(hardness: Float32Array, keys: number[], indexOf: Map<number, number>): Point[] {
  const edges: Point[] = [];
  keys.forEach((key, n) => {
    if (!(hardness[n] > 0.55)) return;
    for (const step of [1, -1, 65536, -65536]) {
      const m = indexOf.get(key + step);
      if (m !== undefined && hardness[m] < 0.45) {
        edges.push(cellCentre(...parseCellKey(key)));
        break;
      }
    }
  });
  return edges;
}

function fetches(keys: number[]): Float32Array {
  const out = new Float32Array(keys.length * FETCH_DIRECTIONS);
  if (!keys.length) return out;
  const places = keys.map(parseCellKey);
  const span = (axis: 0 | 1): [low: number, n: number] => {
    let [low, high] = [Infinity, -Infinity];
    for (const p of places) {
      low = Math.min(low, p[axis]);
      high = Math.max(high, p[axis]);
    }
    return [low - 1, high - low + 3];
  };
  const [c0, width] = span(0);
  const [r0, height] = span(1);
  const water = new Uint8Array(width * height);
  for (const [c, r] of places) water[(r - r0) * width + c - c0] = 1;
  // Along rows, columns and diagonals one pass over the grid carries the distance on; between them it is stepped off.
  const run = new Float32Array(water.length);
  for (let d = 0; d < FETCH_DIRECTIONS; d++) {
    const angle = (d * 2 * Math.PI) / FETCH_DIRECTIONS;
    const [dx, dy] = [Math.sin(angle), Math.cos(angle)];
    if (d % 2 === 0) {
      const [di, dj] = [Math.round(dx), Math.round(dy)];
      const step = Math.hypot(di, dj);
      const towards = dj * width + di;
      // From the far side on, so that the neighbour is known already.
      for (let n = 1; n < water.length - 1; n++) {
        const k = towards > 0 ? water.length - 1 - n : n;
        run[k] = water[k] ? (run[k + towards] ?? 0) + step : 0;
      }
      places.forEach(([c, r], n) => {
        out[n * FETCH_DIRECTIONS + d] = (run[(r - r0) * width + c - c0] - step / 2) * CELL;
      });
      continue;
    }
    for (let n = 0; n < places.length; n++) {
      let steps = 0;
      // Positive numbers: adding a half and cutting rounds them, and is quick.
      let [x, y] = [places[n][0] - c0 + 0.5 + dx, places[n][1] - r0 + 0.5 + dy];
      while (steps < 800 && water[(y | 0) * width + (x | 0)] === 1) {
        steps++;
        x += dx;
        y += dy;
      }
      out[n * FETCH_DIRECTIONS + d] = (steps + 0.5) * CELL;
    }
  }
  return out;
}

/** Builds the table of a water's cells from its rasters and cover. */
export function buildCells(cells: WaterCells, depth: Raster, hardness: Raster, cover: CoverPoints[]): CellTable {
  const keys = [...cells.area.keys()].sort((a, b) => a - b);
  const indexOf = new Map(keys.map((key, n) => [key, n]));
  const hardnessOf = meanPerCell(hardness, keys);
  const shore = cells.rings.flatMap((ring) => alongRing(ring, CELL / 2));
  const [near, wide] = bottomPositions(depth, [50, 150]);
  const of = (kind: CoverPoints['kind']): Point[] => cover.filter((c) => c.kind === kind).flatMap((c) => c.points);
  return {
    count: keys.length,
    column: Int32Array.from(keys, (key) => key % 65536),
    row: Int32Array.from(keys, (key) => Math.floor(key / 65536)),
    area: Float32Array.from(keys, (key) => cells.area.get(key)!),
    depth: meanPerCell(depth, keys),
    hardness: hardnessOf,
    slope: meanPerCell(slope(depth), keys),
    positionNear: meanPerCell(near, keys),
    positionWide: meanPerCell(wide, keys),
    woodDistance: distanceTo(of('wood'), keys, indexOf),
    weedDistance: distanceTo(of('weed'), keys, indexOf),
    edgeDistance: distanceTo(hardSoftEdges(hardnessOf, keys, indexOf), keys, indexOf),
    shoreDistance: distanceTo(shore, keys, indexOf),
    fetch: fetches(keys),
  };
}

/** Points along a closed ring, at most `step` metres apart. */
export function alongRing(ring: Point[], step: number): Point[] {
  const out: Point[] = [];
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [xa, ya] = ring[j];
    const [xb, yb] = ring[i];
    const n = Math.max(1, Math.ceil(Math.hypot(xb - xa, yb - ya) / step));
    for (let s = 0; s < n; s++) out.push([xa + ((xb - xa) * s) / n, ya + ((yb - ya) * s) / n]);
  }
  return out;
}
