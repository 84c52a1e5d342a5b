import { contours } from 'd3-contour';
import { insideRings, metricPlane, utmEpsg, type LatLon, type MetricPlane, type Point, type Rings } from '@restless-shoal/core/geo';
import { Random, smoothNoise } from './random';
import type { CoverThing, Rise, Shape } from './shape';
import { SHAPES, type ShapeKind } from './shapes';

/** A made-up water: its bottom, humps, hard patches, timber and weed. Metres, local to its corner. */
export interface World {
  seed: number;
  name: string;
  width: number;
  height: number;
  plane: MetricPlane;
  origin: Point;
  /** Depth at full level or datum, m; zero or less on land and on ground that falls dry. */
  depth(x: number, y: number): number;
  /** 0 soft – 1 hard. */
  hardness(x: number, y: number): number;
  /** 1 at the drowned channel, 0 away from it. */
  channel(x: number, y: number): number;
  outline: Rings;
  humps: Rise[];
  cover: CoverThing[];
  /** How a river runs at a place; none on other waters. */
  flowAt?: Shape['flowAt'];
  ramp: Point;
  deepest: Point;
  toLatLon(x: number, y: number): LatLon;
}

const NAMES = [
  'Ostrill Water',
  'Quenlow Reservoir',
  'Tharvick Mere',
  'Oldrane Water',
  'Sevrith Reservoir',
  'Humbrel Water',
  'Yarvane Mere',
  'Wexhollow Water',
];
/** Names of waters that are no lake. */
const OTHER_NAMES: Partial<Record<ShapeKind, string[]>> = {
  sound: ['Marrow Sound', 'Tessel Sound', 'Orvane Sound', 'Quill Sound'],
  reach: ['Aldrey, lower reach', 'Senn, long reach', 'Aldrey, mill reach', 'Senn, ferry reach'],
};

/** The made-up name of a seed's water, without making it. */
export function worldName(seed: number, kind: ShapeKind = 'valley'): string {
  const names = OTHER_NAMES[kind] ?? NAMES;
  return names[seed % names.length];
}

/** Makes a water from a seed: another seed is another shape of the same kind. */
export function makeWorld(seed: number, kind: ShapeKind = 'valley'): World {
  const random = new Random(seed * 7919 + 13);
  const { width, height, flatDepth, channelAt, launch, rises = [], most = 16, cover, flowAt, shore = 0 } = SHAPES[kind](seed, random);
  const ground = smoothNoise(seed + 3, 240);
  const patch = smoothNoise(seed + 4, 90);
  const humps: Rise[] = [...rises];
  const depth = (x: number, y: number): number => {
    let d = flatDepth(x, y);
    if (d <= 0) return d;
    d += 3.6 * channelAt(x, y) * Math.min(1, d / 4);
    for (const h of humps) {
      const r = ((x - h.x) ** 2 + (y - h.y) ** 2) / (2 * h.radius ** 2);
      if (r < 8) d -= h.height * Math.exp(-r);
    }
    return Math.max(0.15, d);
  };
  for (let tries = 0; humps.length < most && tries < 4000; tries++) {
    const [x, y] = [random.even(300, width - 200), random.even(100, height - 100)];
    const d = flatDepth(x, y);
    if (d < (kind === 'pans' ? 3 : 6) || channelAt(x, y) > 0.2 || humps.some((h) => Math.hypot(h.x - x, h.y - y) < 260)) continue;
    humps.push({ x, y, radius: random.even(28, 60), height: Math.min(d - 2, random.even(1.6, 5)) });
  }
  const hardness = (x: number, y: number): number => {
    let h = 0.34 + 0.3 * ground(x, y) + 0.16 * patch(x, y) - 0.3 * channelAt(x, y) - 0.012 * Math.max(0, depth(x, y) - 9);
    for (const hump of humps)
      h += (hump.soft ? -0.27 : 0.45) * Math.exp(-((x - hump.x) ** 2 + (y - hump.y) ** 2) / (2 * (hump.radius * 1.1) ** 2));
    return Math.min(1, Math.max(0, h));
  };
  const origin: Point = [0, 0];
  const corner: LatLon = { latitude: 47.3 + (seed % 9) * 0.11, longitude: -33.9 - (seed % 13) * 0.09 };
  const plane = metricPlane(utmEpsg(corner));
  [origin[0], origin[1]] = plane.toMetric(corner).map((v) => Math.round(v)) as Point;
  const outline = traceOutline(depth, width, height, -shore);
  const world: World = {
    seed,
    name: worldName(seed, kind),
    width,
    height,
    plane,
    origin,
    depth,
    hardness,
    channel: channelAt,
    outline,
    humps,
    cover: [],
    flowAt,
    // On a coast from a slip that reaches below low water.
    ramp: shoreNear(shore ? traceOutline(depth, width, height, 1) : outline, ...launch),
    deepest: deepestPoint(depth, width, height),
    toLatLon: (x, y) => plane.toLatLon([x + origin[0], y + origin[1]]),
  };
  world.cover = cover
    ? [{ kind: 'access', cover: null, points: [world.ramp] }, ...cover(depth, random.fork(5))]
    : placeCover(world, random.fork(5));
  return world;
}

/** The line along which the water is so deep, m. */
function traceOutline(depth: World['depth'], width: number, height: number, deep: number): Rings {
  const step = 20;
  // A foreshore lies beyond the frame of the depths.
  const margin = deep < 0 ? 14 : 5;
  const [nx, ny] = [Math.ceil(width / step) + 2 * margin, Math.ceil(height / step) + 2 * margin];
  const field = new Array<number>(nx * ny);
  for (let j = 0; j < ny; j++) for (let i = 0; i < nx; i++) field[j * nx + i] = depth((i + 0.5 - margin) * step, (j + 0.5 - margin) * step);
  const shape = contours().size([nx, ny]).thresholds([deep])(field)[0];
  const main = shape.coordinates.reduce((a, b) => (b[0].length > a[0].length ? b : a));
  return main
    .filter((ring, k) => k === 0 || ring.length > 12)
    .map((ring) => ring.slice(0, -1).map(([x, y]): Point => [(x - margin) * step, (y - margin) * step]));
}

function shoreNear(outline: Rings, x: number, y: number): Point {
  return outline[0].reduce((best, p) => (Math.hypot(p[0] - x, p[1] - y) < Math.hypot(best[0] - x, best[1] - y) ? p : best));
}

function deepestPoint(depth: World['depth'], width: number, height: number): Point {
  let best: Point = [0, 0];
  for (let y = 0; y < height; y += 20) for (let x = 0; x < width; x += 20) if (depth(x, y) > depth(best[0], best[1])) best = [x, y];
  return best;
}

function placeCover(world: World, random: Random): CoverThing[] {
  const things: CoverThing[] = [{ kind: 'access', cover: null, points: [world.ramp] }];
  const spot = (fits: (d: number, x: number, y: number) => boolean): Point | null => {
    for (let k = 0; k < 600; k++) {
      const [x, y] = [random.even(0, world.width), random.even(0, world.height)];
      const d = world.depth(x, y);
      if (d > 0.8 && fits(d, x, y)) return [x, y];
    }
    return null;
  };
  const add = (kind: CoverThing['kind'], cover: string, count: number, fits: (d: number, x: number, y: number) => boolean): void => {
    for (let k = 0; k < count; k++) {
      const p = spot(fits);
      // The bottom goes on beyond a dam; what is put there lies on land.
      if (p && insideRings(world.outline, p[0], p[1])) things.push({ kind, cover, points: [p] });
    }
  };
  // Timber stands along the old channel's banks, brush was sunk by people on the mid-depth flats.
  add('cover', 'timber', 70, (d, x, y) => d > 4 && d < 12 && world.channel(x, y) > 0.05 && world.channel(x, y) < 0.5);
  add('cover', 'timber', 25, (d) => d > 3 && d < 8);
  add('cover', 'brush', 22, (d) => d > 3.5 && d < 7.5);
  add('cover', 'rock', 18, (d, x, y) => d > 2 && d < 9 && world.hardness(x, y) > 0.6);
  add('hazard', 'timber', 6, (d) => d > 1 && d < 2);
  for (let k = 0; k < 16; k++) {
    const p = spot((d, x, y) => d > 1.2 && d < 3.2 && world.hardness(x, y) < 0.5);
    if (!p) continue;
    const size = random.even(25, 70);
    things.push({
      kind: 'weed',
      cover: 'weed',
      points: Array.from({ length: 9 }, (_, i): Point => [
        p[0] + size * random.even(0.6, 1) * Math.cos((i * 2 * Math.PI) / 9),
        p[1] + size * random.even(0.6, 1) * Math.sin((i * 2 * Math.PI) / 9),
      ]),
    });
  }
  return things;
}
