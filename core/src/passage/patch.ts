import { CELL, insideMask, ringsBounds, type Point } from '../geo';
import type { NavigableWater, PassageArea } from './navigable';

/** A piece of water to be searched, as squares. */
export interface SearchPatch {
  x0: number;
  y0: number;
  size: number;
  width: number;
  height: number;
  /** 1 where the square belongs to it. */
  inside: Uint8Array;
  /** Depth at the day's level, m; NaN where not known. */
  depth: Float32Array;
  squares: number;
  hectares: number;
  /** Depths between which it was cut out, m; null where it was not. */
  band: [top: number, bottom: number] | null;
}

/** What is to be searched: all conditions that are given hold together. */
export interface PatchWish {
  /** Within any of these. */
  areas?: PassageArea[];
  /** Within this of the points, m. */
  round?: { points: Point[]; radius: number };
  /** Any of these 25 m cells, by their middles. */
  cells?: Point[];
  /** Depth of the bottom, m. */
  band?: [top: number, bottom: number];
}

const SIZES = [5, 10, 12.5, 25, 50, 100];
const MOST_SQUARES = 120_000;
/** How far about a line or a point of a shape it is searched, m. */
const ABOUT = 30;

/** Cuts a patch out of the water. A patch may be empty. */
export function patchOf(water: NavigableWater, { areas, round, cells, band }: PatchWish): SearchPatch {
  const { rings, depth, level } = water.inputs;
  const extents = [
    ringsBounds(rings),
    ...(areas ? [grown(ringsBounds(areas.map((a) => a.points)), ABOUT)] : []),
    ...(round ? [grown(ringsBounds([round.points]), round.radius)] : []),
    ...(cells ? [grown(ringsBounds([cells]), CELL / 2)] : []),
  ];
  const x0 = Math.max(...extents.map((e) => e[0]));
  const y0 = Math.max(...extents.map((e) => e[1]));
  const wide = Math.max(0, Math.min(...extents.map((e) => e[2])) - x0);
  const high = Math.max(0, Math.min(...extents.map((e) => e[3])) - y0);
  const size = SIZES.find((s) => (wide / s + 1) * (high / s + 1) <= MOST_SQUARES) ?? 200;
  const width = Math.max(1, Math.ceil(wide / size));
  const height = Math.max(1, Math.ceil(high / size));
  const inside = wide > 0 && high > 0 ? insideMask(rings, x0, y0, size, width, height) : new Uint8Array(width * height);
  const depths = new Float32Array(width * height);
  const within = areas && masked(areas, { x0, y0, size, width, height });
  const chosen = cells && new Set(cells.map(([x, y]) => `${Math.floor(x / CELL)} ${Math.floor(y / CELL)}`));
  let squares = 0;
  for (let k = 0; k < inside.length; k++) {
    const [x, y] = [x0 + ((k % width) + 0.5) * size, y0 + (Math.floor(k / width) + 0.5) * size];
    depths[k] = depth.at(x, y) + level;
    if (!inside[k]) continue;
    const fits =
      (!within || within[k]) &&
      (!round || round.points.some(([px, py]) => Math.hypot(px - x, py - y) <= round.radius)) &&
      (!chosen || chosen.has(`${Math.floor(x / CELL)} ${Math.floor(y / CELL)}`)) &&
      (!band || (depths[k] >= band[0] && depths[k] <= band[1]));
    if (fits) squares++;
    else inside[k] = 0;
  }
  return {
    x0,
    y0,
    size,
    width,
    height,
    inside,
    depth: depths,
    squares,
    hectares: (squares * size * size) / 10_000,
    band: band ?? null,
  };
}

/** The middle of a square. */
export const squareCentre = ({ x0, y0, size, width }: SearchPatch, k: number): Point => [
  x0 + ((k % width) + 0.5) * size,
  y0 + (Math.floor(k / width) + 0.5) * size,
];

type Bounds = [x0: number, y0: number, x1: number, y1: number];
const grown = ([a, b, c, d]: Bounds, by: number): Bounds => [a - by, b - by, c + by, d + by];

function masked(
  areas: PassageArea[],
  { x0, y0, size, width, height }: Pick<SearchPatch, 'x0' | 'y0' | 'size' | 'width' | 'height'>,
): Uint8Array {
  const out = new Uint8Array(width * height);
  for (const { type, points } of areas) {
    if (type === 'Polygon') {
      insideMask([points], x0, y0, size, width, height).forEach((m, k) => m && (out[k] = 1));
      continue;
    }
    for (let i = type === 'LineString' ? 1 : 0; i < points.length; i++) {
      const [[xa, ya], [xb, yb]] = [points[Math.max(0, i - 1)], points[i]];
      const [from, to] = type === 'LineString' ? [[xa, ya], [xb, yb]] : [[xb, yb], [xb, yb]]; // prettier-ignore
      const steps = Math.max(1, Math.ceil(Math.hypot(to[0] - from[0], to[1] - from[1]) / size));
      const reach = Math.ceil(ABOUT / size);
      for (let s = 0; s <= steps; s++) {
        const [x, y] = [from[0] + ((to[0] - from[0]) * s) / steps, from[1] + ((to[1] - from[1]) * s) / steps];
        const [ci, cj] = [Math.floor((x - x0) / size), Math.floor((y - y0) / size)];
        for (let j = Math.max(0, cj - reach); j <= Math.min(height - 1, cj + reach); j++)
          for (let n = Math.max(0, ci - reach); n <= Math.min(width - 1, ci + reach); n++)
            if (Math.hypot(x0 + (n + 0.5) * size - x, y0 + (j + 0.5) * size - y) <= ABOUT) out[j * width + n] = 1;
      }
    }
  }
  return out;
}
