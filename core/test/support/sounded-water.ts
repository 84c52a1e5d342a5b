import { seeded } from '../../src/numbers';
import type { Point, Rings } from '../../src/geo';

/** A thing planted in the bottom, to be found again. */
export interface Planted {
  kind: 'hump' | 'ledge' | 'saddle' | 'channel swing' | 'hard spot';
  /** Where it is: one point, or points along it. */
  at: Point[];
  /** How near a claim must come to count, m. */
  near: number;
  /** Height, drop or contrast. */
  size: number;
}

/** A made-up water with a known bottom. Metres. */
export interface SoundedWater {
  rings: Rings;
  depth(x: number, y: number): number;
  hardness(x: number, y: number): number;
  planted: Planted[];
  width: number;
  height: number;
}

/** Smooth noise about −1 to 1 with features of `scale` metres: cosine-blended lattice values. */
export function smoothNoise(seed: number, scale: number): (x: number, y: number) => number {
  const value = (i: number, j: number): number => {
    let h = Math.imul(i, 374761393) ^ Math.imul(j, 668265263) ^ Math.imul(seed + 1, 2147483647 - 40503);
    h = Math.imul(h ^ (h >>> 13), 1274126177);
    return (((h ^ (h >>> 16)) >>> 0) / 4294967295) * 2 - 1;
  };
  return (x, y) => {
    const [i, j] = [Math.floor(x / scale), Math.floor(y / scale)];
    const ease = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);
    const [u, v] = [ease(x / scale - i), ease(y / scale - j)];
    const top = value(i, j) * (1 - u) + value(i + 1, j) * u;
    const low = value(i, j + 1) * (1 - u) + value(i + 1, j + 1) * u;
    return top * (1 - v) + low * v;
  };
}

/** Gaussian noise from a uniform source. */
export const normal = (random: () => number): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

interface Bump {
  x: number;
  y: number;
  height: number;
  radius: number;
}

export interface WaterOptions {
  /** Sides of the water, m. */
  width?: number;
  height?: number;
  /** How rough the bottom is between the planted things, 1 as usual. */
  rough?: number;
}

/**
 * Makes a water from a seed: a sloping basin with rolling ground, humps, a ledge, pairs of humps with a saddle between
 * them, a winding channel and hard spots, well apart from each other.
 */
export function makeSoundedWater(seed: number, { width = 1500, height = 1100, rough = 1 }: WaterOptions = {}): SoundedWater {
  const random = seeded(seed * 7 + 1);
  const even = (a: number, b: number): number => a + (b - a) * random();
  const broad = smoothNoise(seed, 420);
  const middle = smoothNoise(seed + 50, 170);
  const fine = smoothNoise(seed + 90, 60);
  const planted: Planted[] = [];
  const taken: [x: number, y: number, r: number][] = [];
  const free = (x: number, y: number, r: number): boolean =>
    taken.every(([tx, ty, tr]) => Math.hypot(tx - x, ty - y) > tr + r) &&
    x > r + 60 &&
    y > r + 60 &&
    x < width - r - 60 &&
    y < height - r - 60;

  // The channel runs the length of the water, winding; its swings are where it turns hardest.
  const amplitude = even(60, 95);
  const wave = even(380, 520);
  const phase = even(0, 6.28);
  const middleLine = height * even(0.3, 0.4);
  const line = (x: number): number => middleLine + amplitude * Math.sin((x / wave) * 2 * Math.PI + phase);
  const channelDeep = even(1.6, 2.6);
  const channelWide = even(16, 24);
  for (let n = -2; n < 20; n++) {
    const x = ((Math.PI / 2 + n * Math.PI - phase) / (2 * Math.PI)) * wave;
    if (x > 80 && x < width - 80) planted.push({ kind: 'channel swing', at: [[x, line(x)]], near: 50, size: channelDeep });
  }
  for (let x = 0; x <= width; x += 40) taken.push([x, line(x), 70]);

  // A ledge across the far side, where a shelf breaks to deeper ground.
  const ledgeX = even(0.2, 0.3) * width;
  const ledgeLength = even(260, 380);
  const ledgeY = height * even(0.66, 0.72);
  const ledgeDrop = even(1.6, 2.8);
  const ledgeLine = (x: number): number => ledgeY + 18 * Math.sin((x - ledgeX) / 70);
  const ledgeAt: Point[] = [];
  for (let x = ledgeX; x <= ledgeX + ledgeLength; x += 10) ledgeAt.push([x, ledgeLine(x)]);
  planted.push({ kind: 'ledge', at: ledgeAt, near: 30, size: ledgeDrop });
  for (const [x, y] of ledgeAt) taken.push([x, y, 75]);

  const bumps: Bump[] = [];
  const place = (reach: number): Point | null => {
    for (let tries = 0; tries < 400; tries++) {
      const [x, y] = [even(80, width - 80), even(80, height - 80)];
      if (free(x, y, reach)) return [x, y];
    }
    return null;
  };
  for (let n = 0; n < 2; n++) {
    const at = place(150);
    if (!at) continue;
    const angle = even(0, Math.PI);
    const half = even(48, 60);
    const tops = [1, -1].map((s): Bump => ({
      x: at[0] + s * half * Math.cos(angle),
      y: at[1] + s * half * Math.sin(angle),
      height: even(1.5, 2.4),
      radius: even(30, 36),
    }));
    bumps.push(...tops);
    for (const t of tops) planted.push({ kind: 'hump', at: [[t.x, t.y]], near: 30, size: t.height });
    planted.push({ kind: 'saddle', at: [at], near: 30, size: Math.min(tops[0].height, tops[1].height) });
    taken.push([...at, 150]);
  }
  for (let n = 0; n < 6; n++) {
    const at = place(75);
    if (!at) continue;
    const bump = { x: at[0], y: at[1], height: even(0.55, 1.6), radius: even(18, 34) };
    bumps.push(bump);
    planted.push({ kind: 'hump', at: [at], near: 30, size: bump.height });
    taken.push([...at, 75]);
  }
  const hard: Bump[] = [];
  const hardTaken: Point[] = [];
  for (let tries = 0; hard.length < 5 && tries < 300; tries++) {
    const [x, y] = [even(100, width - 100), even(100, height - 100)];
    if (hardTaken.some(([hx, hy]) => Math.hypot(hx - x, hy - y) < 150)) continue;
    hardTaken.push([x, y]);
    hard.push({ x, y, height: even(0.35, 0.5), radius: even(20, 34) });
    planted.push({ kind: 'hard spot', at: [[x, y]], near: 30, size: 0.4 });
  }

  const shore: Point[] = [];
  const steps = 160;
  for (let k = 0; k < steps; k++) {
    const a = (2 * Math.PI * k) / steps;
    // A rounded box with an uneven edge.
    const c = Math.cos(a);
    const s = Math.sin(a);
    const r = 1 / Math.pow(Math.abs(c) ** 5 + Math.abs(s) ** 5, 0.2);
    const wobble = 1 + 0.02 * middle(a * 300, seed * 10);
    shore.push([width / 2 + (width / 2) * r * c * wobble, height / 2 + (height / 2) * r * s * wobble]);
  }
  const toShore = (x: number, y: number): number => {
    let best = Infinity;
    for (let i = 0, j = shore.length - 1; i < shore.length; j = i++) {
      const [ax, ay] = shore[j];
      const [dx, dy] = [shore[i][0] - ax, shore[i][1] - ay];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
      best = Math.min(best, Math.hypot(x - ax - t * dx, y - ay - t * dy));
    }
    return best;
  };
  const depth = (x: number, y: number): number => {
    const shelf = 1 - Math.exp(-toShore(x, y) / 70);
    let d = 6.2 + 1.5 * rough * broad(x, y) + 0.3 * rough * middle(x, y) + 0.06 * rough * fine(x, y);
    d += channelDeep * Math.exp(-(((y - line(x)) / channelWide) ** 2) / 2);
    const end = Math.min(x - ledgeX, ledgeX + ledgeLength - x);
    if (end > -60)
      d +=
        (ledgeDrop / (1 + Math.exp(-(y - ledgeLine(x)) / 5))) *
        Math.min(1, Math.max(0, (end + 60) / 60)) *
        Math.exp(-Math.max(0, y - ledgeLine(x) - 60) / 120);
    for (const b of bumps) {
      const r2 = ((x - b.x) ** 2 + (y - b.y) ** 2) / b.radius ** 2;
      if (r2 < 12) d -= b.height * Math.exp(-r2 / 2);
    }
    return Math.max(0, d * shelf);
  };
  const hardness = (x: number, y: number): number => {
    let h = 0.32 + 0.08 * broad(y, x) + 0.04 * middle(y, x);
    for (const b of hard) h += b.height / (1 + Math.exp((Math.hypot(x - b.x, y - b.y) - b.radius) / 4));
    return Math.min(1, Math.max(0, h));
  };
  return { rings: [shore], depth, hardness, planted, width, height };
}

/** Soundings as a boat logs them, in time order; `line` numbers the passes. */
export interface Survey {
  time: Float64Array;
  x: Float64Array;
  y: Float64Array;
  depth: Float64Array;
  hardness: Float64Array;
  line: Int32Array;
  /** The true depth where the boat was. */
  truth: Float64Array;
}

export interface SurveyOptions {
  seed?: number;
  /** Between passes, m. */
  spacing?: number;
  /** m/s */
  speed?: number;
  /** Seconds between soundings. */
  every?: number;
  /** Spread of the depth, m, and of the position, m. */
  noise?: number;
  gps?: number;
  /** Seconds by which the depth is older than the position it is logged with. */
  lag?: number;
  /** Share of soundings that are spikes. */
  spikes?: number;
  /** Stretches in which the unit read the second echo: twice the depth. */
  doubles?: number;
}

/** Runs S-shaped passes over a water. */
export function survey(water: SoundedWater, options: SurveyOptions = {}): Survey {
  const { seed = 1, spacing = 30, speed = 2.5, every = 1, noise = 0.05, gps = 0.8, lag = 0, spikes = 0, doubles = 0 } = options;
  const random = seeded(seed * 31 + 5);
  const rows: [number, number, number, number, number, number, number][] = [];
  let t = Date.UTC(2026, 4, 2, 6);
  let line = 0;
  for (let x = spacing / 2; x < water.width; x += spacing, line++) {
    const up = line % 2 === 0;
    const wander = normal(random) * 1.5;
    for (let s = 0; s < water.height; s += speed * every) {
      const y = up ? s : water.height - s;
      const px = x + wander + 2 * Math.sin(s / 60 + line);
      if (water.depth(px, y) < 0.5) continue;
      t += every * 1000;
      const ahead = lag * speed * (up ? 1 : -1);
      const truth = water.depth(px, y);
      rows.push([
        t,
        px + gps * normal(random) * 0.7,
        y + ahead + gps * normal(random) * 0.7,
        truth + noise * normal(random),
        water.hardness(px, y) + 0.05 * normal(random),
        line,
        truth,
      ]);
    }
    t += 20_000;
  }
  for (const row of rows) if (random() < spikes) row[3] = random() < 0.5 ? row[3] * (0.1 + 0.5 * random()) : row[3] + 2 + 12 * random();
  for (let k = 0; k < doubles; k++) {
    const from = Math.floor(random() * (rows.length - 40));
    for (let i = from; i < from + 8 + Math.floor(20 * random()); i++) rows[i][3] = 2 * rows[i][6] + noise * normal(random);
  }
  const column = (k: number): Float64Array => Float64Array.from(rows, (r) => r[k]);
  return {
    time: column(0),
    x: column(1),
    y: column(2),
    depth: column(3),
    hardness: column(4).map((h) => Math.min(1, Math.max(0, h))),
    line: Int32Array.from(rows, (r) => r[5]),
    truth: column(6),
  };
}
