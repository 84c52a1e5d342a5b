import { CELL, Raster, WaterCells, cellCentre, parseCellKey, type Point } from '../geo';
import type { RiverFlow } from './river-flow';
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
  /** Mean depth of the bottom below datum, m; ground above it counts as 0. */
  depth: Float32Array;
  /** Mean height above datum of the ground that falls dry, m; 0 where none does. */
  drying: Float32Array;
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
  /** Towards where the bottom rises, metres per metre: the side of a rise that a cell is on. */
  riseEast: Float32Array;
  riseNorth: Float32Array;
  /** Towards the nearest timber, rock, reef or wreck, of length one; nothing in its own cell and where there is none near. */
  coverEast: Float32Array;
  coverNorth: Float32Array;
  /** How a river runs here against the mean of its section: 1 is as fast; against it in an eddy; nothing where that is not known. */
  flowEast: Float32Array;
  flowNorth: Float32Array;
  /** Distance to the seam between fast and slack water, m. */
  seamDistance: Float32Array;
  /** Fetch by direction, m: FETCH_DIRECTIONS entries a cell. */
  fetch: Float32Array;
}

/** Names of the per-cell columns, in the order in which they travel. */
export const CELL_COLUMNS = [
  'area',
  'depth',
  'drying',
  'hardness',
  'slope',
  'positionNear',
  'positionWide',
  'woodDistance',
  'weedDistance',
  'edgeDistance',
  'shoreDistance',
  'riseEast',
  'riseNorth',
  'coverEast',
  'coverNorth',
  'flowEast',
  'flowNorth',
  'seamDistance',
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

/** Distance of each cell to the nearest of some points, m, and the way to it. */
function nearestOf(
  points: Point[],
  keys: number[],
  indexOf: Map<number, number>,
): { distance: Float32Array; east: Float32Array; north: Float32Array } {
  const out = new Float32Array(keys.length).fill(FAR);
  const [east, north] = [new Float32Array(keys.length), new Float32Array(keys.length)];
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
        if (d >= out[n]) continue;
        out[n] = d;
        const away = Math.hypot(x - cx, y - cy);
        [east[n], north[n]] = d > 0 ? [(x - cx) / away, (y - cy) / away] : [0, 0];
      }
  }
  return { distance: out, east, north };
}

/** Which way the bottom rises from cell to cell, metres per metre: central differences of the cells' mean depths, one-sided at an edge. */
function risesOf(depth: Float32Array, keys: number[], indexOf: Map<number, number>): { east: Float32Array; north: Float32Array } {
  const along = (step: number): Float32Array =>
    Float32Array.from(keys, (key, n) => {
      const at = (m: number | undefined): number | null => (m === undefined || Number.isNaN(depth[m]) ? null : depth[m]);
      const [low, high] = [at(indexOf.get(key - step)), at(indexOf.get(key + step))];
      const span = (low === null ? 0 : 1) + (high === null ? 0 : 1);
      return span && !Number.isNaN(depth[n]) ? ((low ?? depth[n]) - (high ?? depth[n])) / (span * CELL) : 0;
    });
  return { east: along(1), north: along(65536) };
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

/** How a river runs in each cell: the mean over a few places in it. */
function flowPerCell(river: RiverFlow, keys: number[]): { east: Float32Array; north: Float32Array } {
  const [east, north] = [new Float32Array(keys.length), new Float32Array(keys.length)];
  const side = 5;
  keys.forEach((key, n) => {
    const [column, row] = parseCellKey(key);
    let count = 0;
    for (let k = 0; k < side * side; k++) {
      const at = river.at((column + ((k % side) + 0.5) / side) * CELL, (row + (Math.floor(k / side) + 0.5) / side) * CELL);
      if (!at) continue;
      east[n] += at[0];
      north[n] += at[1];
      count++;
    }
    if (count) [east[n], north[n]] = [east[n] / count, north[n] / count];
  });
  return { east, north };
}

/** Builds the table of a water's cells from its rasters and cover. */
export function buildCells(
  cells: WaterCells,
  depth: Raster,
  hardness: Raster,
  cover: CoverPoints[],
  river: RiverFlow | null = null,
): CellTable {
  const keys = [...cells.area.keys()].sort((a, b) => a - b);
  const indexOf = new Map(keys.map((key, n) => [key, n]));
  const hardnessOf = meanPerCell(hardness, keys);
  const shore = cells.rings.flatMap((ring) => alongRing(ring, CELL / 2));
  const [near, wide] = bottomPositions(depth, [50, 150]);
  const of = (kind: CoverPoints['kind']): Point[] => cover.filter((c) => c.kind === kind).flatMap((c) => c.points);
  const distanceTo = (points: Point[]): Float32Array => nearestOf(points, keys, indexOf).distance;
  const ground = meanPerCell(depth, keys);
  const part = (sign: 1 | -1): Raster =>
    new Raster(
      depth.x0,
      depth.y0,
      depth.size,
      depth.width,
      depth.height,
      depth.data.map((d) => Math.max(0, sign * d)),
    );
  const dries = depth.data.some((d) => d < 0);
  const depths = dries ? meanPerCell(part(1), keys) : ground;
  const rises = risesOf(ground, keys, indexOf);
  const flow = river && flowPerCell(river, keys);
  const wood = nearestOf(of('wood'), keys, indexOf);
  return {
    count: keys.length,
    column: Int32Array.from(keys, (key) => key % 65536),
    row: Int32Array.from(keys, (key) => Math.floor(key / 65536)),
    area: Float32Array.from(keys, (key) => cells.area.get(key)!),
    depth: depths,
    drying: dries ? meanPerCell(part(-1), keys) : new Float32Array(keys.length),
    hardness: hardnessOf,
    slope: meanPerCell(slope(depth), keys),
    positionNear: meanPerCell(near, keys),
    positionWide: meanPerCell(wide, keys),
    woodDistance: wood.distance,
    weedDistance: distanceTo(of('weed')),
    edgeDistance: distanceTo(hardSoftEdges(hardnessOf, keys, indexOf)),
    shoreDistance: distanceTo(shore),
    riseEast: rises.east,
    riseNorth: rises.north,
    coverEast: wood.east,
    coverNorth: wood.north,
    flowEast: flow?.east ?? new Float32Array(keys.length),
    flowNorth: flow?.north ?? new Float32Array(keys.length),
    seamDistance: river ? distanceTo(river.seams) : new Float32Array(keys.length).fill(FAR),
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
