import { insideMask, Raster, ringsBounds, WaterCells, type Point, type Rings } from '../geo';
import { alongRing, buildCells, type CellTable, type CoverPoints } from './cells';
import { interpolateTriangles } from './triangulate';

/** A build of a water: where the bottom is. Made from soundings, never edited by hand. */
export interface Chart {
  epsg: number;
  depth: Raster;
  hardness: Raster;
  cells: CellTable;
  /** Number of soundings it rests on. */
  soundings: number;
  deepest: number;
}

/** Soundings in the metric plane; hardness NaN where not known. */
export interface SoundingColumns {
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  depth: ArrayLike<number>;
  hardness: ArrayLike<number>;
}

export interface BuildOptions {
  /** Side of a raster cell, m; by default from the size of the water. */
  size?: number;
  cover?: CoverPoints[];
  /** False when the outline was proposed from the soundings: its edge is then no shore, and not 0 m deep. */
  shoreIsZero?: boolean;
  onProgress?: (share: number) => void;
}

const MOST_CELLS = 1_000_000;

/** Raster size: 5, 10, 20 … m, the finest that stays below a million cells. */
export function proposeSize(bounds: [number, number, number, number]): number {
  const [x0, y0, x1, y1] = bounds;
  for (const size of [10, 12.5, 25, 50, 100, 250]) if (((x1 - x0) / size) * ((y1 - y0) / size) <= MOST_CELLS) return size;
  return 500;
}

/** Means of the soundings that share a small square, so that a crossing or a drift does not pull the triangles. */
function thin(soundings: SoundingColumns, values: ArrayLike<number>, bin: number): { points: number[]; values: number[] } {
  const sums = new Map<number, [x: number, y: number, v: number, n: number]>();
  const n = soundings.x.length;
  for (let i = 0; i < n; i++) {
    const v = values[i];
    if (Number.isNaN(v)) continue;
    const key = Math.floor(soundings.y[i] / bin) * 4194304 + Math.floor(soundings.x[i] / bin);
    const sum = sums.get(key);
    if (sum) {
      sum[0] += soundings.x[i];
      sum[1] += soundings.y[i];
      sum[2] += v;
      sum[3]++;
    } else sums.set(key, [soundings.x[i], soundings.y[i], v, 1]);
  }
  const points: number[] = [];
  const means: number[] = [];
  for (const [x, y, v, count] of sums.values()) {
    points.push(x / count, y / count);
    means.push(v / count);
  }
  return { points, values: means };
}

/** Builds the chart of a water by triangulating its soundings and its shore. */
export function buildChart(epsg: number, rings: Rings, soundings: SoundingColumns, options: BuildOptions = {}): Chart {
  const bounds = ringsBounds(rings);
  const size = options.size ?? proposeSize(bounds);
  const x0 = Math.floor(bounds[0] / 25) * 25;
  const y0 = Math.floor(bounds[1] / 25) * 25;
  const width = Math.ceil((bounds[2] - x0) / size) + 1;
  const height = Math.ceil((bounds[3] - y0) / size) + 1;
  const depth = new Raster(x0, y0, size, width, height);
  const hardness = new Raster(x0, y0, size, width, height);

  // Without a sounding nothing is known of the depth: a shore alone would make the whole water 0 m deep.
  const shore: Point[] = options.shoreIsZero === false || soundings.x.length === 0 ? [] : rings.flatMap((ring) => alongRing(ring, 15));
  const thinned = thin(soundings, soundings.depth, size / 2);
  for (const [x, y] of shore) thinned.points.push(x, y);
  interpolateTriangles(Float64Array.from(thinned.points), [...thinned.values, ...shore.map(() => 0)], depth);
  options.onProgress?.(0.4);
  const hard = thin(soundings, soundings.hardness, size / 2);
  interpolateTriangles(Float64Array.from(hard.points), hard.values, hardness);
  options.onProgress?.(0.6);

  let deepest = 0;
  const inside = insideMask(rings, x0, y0, size, width, height);
  for (let k = 0; k < depth.data.length; k++) {
    if (!inside[k]) depth.data[k] = hardness.data[k] = NaN;
    else if (depth.data[k] > deepest) deepest = depth.data[k];
  }
  options.onProgress?.(0.75);
  const cells = buildCells(new WaterCells(rings), depth, hardness, options.cover ?? []);
  options.onProgress?.(1);
  return { epsg, depth, hardness, cells, soundings: soundings.x.length, deepest };
}
