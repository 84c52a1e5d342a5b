import { insideMask, Raster, ringsArea, ringsBounds, WaterCells, type Point, type Rings } from '../geo';
import { alongRing, buildCells, type CellTable, type CoverPoints } from './cells';
import type { CleanStep } from './clean';
import { fieldOf, findFeatures, type ChartFeature } from './features';
import type { WaterSort } from '../lake';
import { riverFlow, type CurrentReading } from './river-flow';
import { fitHardness, hardnessBins, type HardPlace } from './hardness';
import { distanceToSoundings, expectedError } from './quality';
import { fitSurface, mergeBins, residualSpread, type Bins } from './surface';

/** A build of a water: where the bottom is. Made from soundings, never edited by hand. */
export interface Chart {
  epsg: number;
  /** Metres below datum; below 0 on ground that falls dry. */
  depth: Raster;
  /** 0 soft – 1 hard. */
  hardness: Raster;
  /** Expected error of the depth, m. */
  quality: Raster;
  cells: CellTable;
  features: ChartFeature[];
  /** What cleaning did to the soundings it rests on. */
  cleaning: CleanStep[];
  /** Number of soundings it rests on. */
  soundings: number;
  deepest: number;
  /** Highest ground that falls dry, m above datum; 0 or less where none does. */
  highest: number;
}

/** How much deeper than the deepest sounding a surface may swing where nobody sounded. */
const SWING = 1.25;

/** Cleaned soundings in the metric plane; hardness NaN where not known. */
export interface SoundingColumns {
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  depth: ArrayLike<number>;
  hardness: ArrayLike<number>;
}

export interface BuildOptions {
  /** Side of a raster cell, m; by default from the size of the water and the density of its soundings. */
  size?: number;
  cover?: CoverPoints[];
  /** Places known to be hard: points on drawn patches, and marks that told of the bottom. */
  hard?: HardPlace[];
  /**
   * Height of the shore line above datum, m: that of high water on a coast, else 0. Null when the outline was proposed from the
   * soundings: its edge is then no shore.
   */
  shore?: number | null;
  cleaning?: CleanStep[];
  nature?: WaterNature;
  onProgress?: (share: number) => void;
}

const MOST_CELLS = 1_000_000;
const SIZES = [1, 2, 2.5, 5, 10, 12.5, 25, 50, 100, 250];
/** How the surface is held: chosen on held-back lines, see docs/chart.md. */
export const STIFFNESS = { bending: 16, tension: 0.001 };

/**
 * Side of a raster cell, m: about 2.5 cells between neighbouring soundings, evenly spread, and at most a million.
 * @param squares number of 5 m squares with a sounding
 */
export function proposeSize(rings: Rings, squares: number): number {
  const [x0, y0, x1, y1] = ringsBounds(rings);
  const spacing = squares > 0 ? Math.sqrt(Math.abs(ringsArea(rings)) / squares) : 25;
  const wanted = SIZES.findLast((s) => s <= Math.max(5, spacing / 2.5)) ?? 5;
  return SIZES.find((s) => s >= wanted && ((x1 - x0) / s) * ((y1 - y0) / s) <= MOST_CELLS) ?? 500;
}

/** Frame of a water's rasters: on the 25 m grid, so that cells of both share their edges. */
export function frameFor(rings: Rings, size: number): Raster {
  const [bx, by, ex, ey] = ringsBounds(rings);
  const [x0, y0] = [Math.floor(bx / 25) * 25, Math.floor(by / 25) * 25];
  return new Raster(x0, y0, size, Math.ceil((ex - x0) / size) + 1, Math.ceil((ey - y0) / size) + 1);
}

const columnOf = (values: ArrayLike<number>): Float64Array => (values instanceof Float64Array ? values : new Float64Array(values));

/** Soundings as bins of about a cell, none weighing more than four: more of the same place tells no more of the next. */
export function soundingBins({ x, y, depth }: SoundingColumns, size: number): Bins {
  const n = x.length;
  const bins = mergeBins(
    {
      x: columnOf(x),
      y: columnOf(y),
      value: columnOf(depth),
      weight: new Float64Array(n).fill(1),
      count: n,
    },
    size,
  );
  for (let b = 0; b < bins.count; b++) bins.weight[b] = Math.min(4, bins.weight[b]);
  return bins;
}

/** Number of 5 m squares with a sounding. */
function squaresOf({ x, y }: SoundingColumns): number {
  const squares = new Set<number>();
  for (let i = 0; i < x.length; i++) squares.add(Math.floor(y[i] / 5) * 16777216 + Math.floor(x[i] / 5));
  return squares.size;
}

/** Cells of a mask and those that touch them, so that the surface reaches the shore line between centres. */
export function withRim(mask: Uint8Array, width: number): Uint8Array {
  const out = mask.slice();
  for (let k = 0; k < mask.length; k++) {
    if (mask[k]) continue;
    const i = k % width;
    const side = (d: number): number =>
      (mask[k + d] ?? 0) | (i > 0 ? (mask[k + d - 1] ?? 0) : 0) | (i < width - 1 ? (mask[k + d + 1] ?? 0) : 0);
    if (side(0) | side(width) | side(-width)) out[k] = 1;
  }
  return out;
}

/** Adds the shore to bins of soundings. @param above its height above datum, m */
export function withShore(bins: Bins, rings: Rings, size: number, above = 0): Bins {
  const shore: Point[] = rings.flatMap((ring) => alongRing(ring, Math.max(8, 1.5 * size)));
  const n = bins.count + shore.length;
  const column = (own: Float64Array, of: (p: Point) => number): Float64Array => {
    const out = new Float64Array(n);
    out.set(own.subarray(0, bins.count));
    shore.forEach((p, i) => (out[bins.count + i] = of(p)));
    return out;
  };
  return {
    x: column(bins.x, (p) => p[0]),
    y: column(bins.y, (p) => p[1]),
    value: column(bins.value, () => -above),
    weight: column(bins.weight, () => 1),
    count: n,
  };
}

/** Where the bottom is, before its shapes are named and its cells worked out. */
export interface Surface {
  epsg: number;
  depth: Raster;
  hardness: Raster;
  /** Where it was sounded, thinned. */
  sounded: { x: Float64Array; y: Float64Array };
  /** Spread of the soundings about it, m. */
  scatter: number;
  soundings: number;
  deepest: number;
  /** Highest ground that falls dry, m above datum; 0 where none does. */
  highest: number;
}

/** Lays the surface of the bottom through cleaned soundings and the shore: the first part of a build. */
export function laySurface(epsg: number, rings: Rings, soundings: SoundingColumns, options: BuildOptions = {}): Surface {
  const progress = (share: number): void => options.onProgress?.(share);
  const size = options.size ?? proposeSize(rings, squaresOf(soundings));
  const depth = frameFor(rings, size);
  const { width, height, x0, y0 } = depth;
  const hardness = depth.like();
  const inside = insideMask(rings, x0, y0, size, width, height);
  const mask = withRim(inside, width);
  const bins = soundingBins(soundings, size);
  const { shore: above = 0 } = options;
  progress(0.15);
  // Without a sounding nothing is known of the depth: a shore alone would make the whole water 0 m deep.
  if (bins.count > 0) {
    const all = above === null ? bins : withShore(bins, rings, size, above);
    fitSurface(all, depth, mask, { ...STIFFNESS, onProgress: (s) => progress(0.15 + 0.6 * s) });
  }
  const scatter = residualSpread(bins, depth, mask);
  fitHardness(hardnessBins(soundings, options.hard ?? [], size), hardness, inside);
  const sounding = bins.value.subarray(0, bins.count);
  const most = SWING * sounding.reduce((a, v) => Math.max(a, v), 0);
  const top = sounding.reduce((a, v) => Math.max(a, -v), above ?? 0);
  let [deepest, highest] = [0, 0];
  for (let k = 0; k < depth.data.length; k++) {
    if (!inside[k]) depth.data[k] = NaN;
    else {
      // A surface may swing a little over the shore: the bottom does not. Nor is it far below all that was sounded.
      depth.data[k] = Math.min(most, Math.max(-top, depth.data[k]));
      if (depth.data[k] > deepest) deepest = depth.data[k];
      if (-depth.data[k] > highest) highest = -depth.data[k];
    }
  }
  progress(1);
  const sounded = { x: bins.x.slice(0, bins.count), y: bins.y.slice(0, bins.count) };
  return { epsg, depth, hardness, sounded, scatter, soundings: soundings.x.length, deepest, highest };
}

/** Names the shapes of a surface: the second part of a build, beside the third where there are threads for both. */
export const shapesOf = (
  { depth, hardness, soundings }: Surface,
  onProgress?: (share: number) => void,
  sort: WaterSort = 'lake',
): ChartFeature[] => (soundings ? findFeatures(fieldOf(depth), hardness, onProgress, sort) : []);

/** What a water is besides its bottom: how its shapes are named, and which way a river runs. */
export interface WaterNature {
  sort?: WaterSort;
  currents?: CurrentReading[];
}

/** What the third part of a build makes: the 25 m cells, and how far the depth can be relied on. */
export interface Worked {
  cells: CellTable;
  /** Distance to the nearest sounding, m. */
  distance: Raster;
  /** Expected error of the depth, m. */
  quality: Raster;
  /** Eddies and seams of a river. */
  flows: ChartFeature[];
}

/** Works out the cells of a surface and how far it can be relied on: the third part of a build. */
export function cellsOf(
  { depth, hardness, sounded, scatter }: Surface,
  rings: Rings,
  cover: CoverPoints[] = [],
  { sort, currents = [] }: WaterNature = {},
): Worked {
  const river = sort === 'river' ? riverFlow(depth, currents) : null;
  const distance = distanceToSoundings(depth, { ...sounded, count: sounded.x.length });
  return {
    cells: buildCells(new WaterCells(rings), depth, hardness, cover, river),
    distance,
    quality: expectedError(fieldOf(depth), distance, scatter),
    flows: river?.shapes ?? [],
  };
}

/** Puts the parts of a build together: a shape that lies far from all soundings is less sure. */
export function chartFrom(
  { epsg, depth, hardness, soundings, deepest, highest }: Surface,
  shapes: ChartFeature[],
  { cells, distance, quality, flows }: Worked,
  cleaning: CleanStep[] = [],
): Chart {
  const features = [...shapes, ...flows].map((f) => {
    const far = Math.max(0, distance.at(f.x, f.y) - 20);
    return far > 0 ? { ...f, confidence: f.confidence * Math.exp(-far / 60) } : f;
  });
  return { epsg, depth, hardness, quality, cells, features, cleaning, soundings, deepest, highest };
}

/** Builds the chart of a water from cleaned soundings and its shore, in one go. */
export function buildChart(epsg: number, rings: Rings, soundings: SoundingColumns, options: BuildOptions = {}): Chart {
  const { onProgress } = options;
  const surface = laySurface(epsg, rings, soundings, { ...options, onProgress: (s) => onProgress?.(0.6 * s) });
  const features = shapesOf(surface, (s) => onProgress?.(0.6 + 0.25 * s), options.nature?.sort);
  const worked = cellsOf(surface, rings, options.cover, options.nature);
  onProgress?.(1);
  return chartFrom(surface, features, worked, options.cleaning);
}
