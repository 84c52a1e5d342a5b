import { reach } from './reach';
import { sound } from './sound';
import { valley, type Shape } from './shape';
import { smoothNoise, type Random } from './random';

export type ShapeKind = 'valley' | 'bowl' | 'trench' | 'pans' | 'sound' | 'reach';

interface Arm {
  at: number;
  side: 1 | -1;
  length: number;
  lean: number;
  deep: number;
  wide: number;
}

/** A drowned valley with arms, behind a dam. */
function reservoir(seed: number, random: Random): Shape {
  const width = random.even(3600, 4600);
  const height = random.even(2300, 2900);
  const bends = random.even(1.1, 1.9);
  const phase = random.even(0, 6.28);
  const line = (x: number): number => height * (0.5 + 0.13 * Math.sin((x / width) * Math.PI * 2 * bends + phase));
  const deepEnd = random.even(19, 24);
  const rough = smoothNoise(seed + 1, 420);
  const fine = smoothNoise(seed + 2, 130);
  const arms: Arm[] = [0.3, 0.52, 0.74].map((at, k) => ({
    at: width * (at + random.even(-0.06, 0.06)),
    side: (k % 2 === 0) === random.chance(0.8) ? 1 : -1,
    length: random.even(700, 1000),
    lean: random.even(-0.35, 0.35),
    deep: random.even(6, 11),
    wide: random.even(140, 230),
  }));

  // The dam stands straight across the lower end; the upper end and the arms thin out to a brook.
  const dam = width * 0.985;
  const flatDepth = (x: number, y: number): number => {
    if (x <= 0 || x >= dam) return -1;
    const along = x / dam;
    const head = Math.sqrt(Math.min(1, x / (320 + 120 * rough(0, y))));
    const half = (300 + 460 * along) * (1 + 0.42 * rough(x, y) + 0.16 * fine(x, y)) * head * Math.min(1, 0.72 + (dam - x) / 900);
    let d = valley((4 + (deepEnd - 4) * along ** 0.9) * head, half, Math.abs(y - line(x)));
    for (const arm of arms) {
      const dy = (y - line(arm.at)) * arm.side;
      if (dy < 0 || dy > arm.length) continue;
      const share = dy / arm.length;
      const bend = 90 * Math.sin(share * 4 + arm.lean * 9);
      const off = Math.abs(x - arm.at - arm.lean * dy - bend);
      const taper = Math.sqrt(1 - share);
      d = Math.max(d, valley(arm.deep * (1 - 0.8 * share), arm.wide * taper * (1 + 0.4 * rough(y, x) + 0.2 * fine(y, x)), off));
    }
    return d + (d > 0 ? 0.9 * rough(x * 1.4, y * 1.4) + 0.5 * fine(x, y) : 0);
  };
  const channelAt = (x: number, y: number): number => {
    let best = Math.exp(-(((y - line(x) - 40 * fine(x, 0)) / 26) ** 2));
    for (const arm of arms) {
      const dy = (y - line(arm.at)) * arm.side;
      if (dy > 0 && dy < arm.length * 0.8)
        best = Math.max(
          best,
          0.7 * Math.exp(-(((x - arm.at - arm.lean * dy - 90 * Math.sin((dy / arm.length) * 4 + arm.lean * 9)) / 18) ** 2)),
        );
    }
    return best;
  };
  return { width, height, flatDepth, channelAt, launch: [width * 0.82, height * 0.1] };
}

/** A round lake with bays, islands and two deep holes; a brook's bed leads in. */
function bowl(seed: number, random: Random): Shape {
  const [width, height] = [random.even(2900, 3500), random.even(2300, 2900)];
  const wobble = smoothNoise(seed + 1, 500);
  const fine = smoothNoise(seed + 2, 140);
  const holes = [0.36, 0.66].map((at) => ({
    x: width * (at + random.even(-0.05, 0.05)),
    y: height * random.even(0.38, 0.62),
    deep: random.even(11, 19),
    wide: random.even(480, 700),
  }));
  const flatDepth = (x: number, y: number): number => {
    const [u, v] = [(x - width / 2) / (width * 0.45), (y - height / 2) / (height * 0.45)];
    const off = Math.hypot(u, v) * (1 + 0.22 * wobble(x, y) + 0.07 * fine(x, y));
    if (off >= 1) return -1;
    let d = 5.5 * (1 - off ** 2.2);
    for (const h of holes) d += (h.deep - 4) * Math.exp(-((x - h.x) ** 2 + (y - h.y) ** 2) / (2 * (h.wide * 0.5) ** 2)) * (1 - off ** 3);
    return d + 1.5 * wobble(y, x) * (1 - off) + 0.6 * fine(x, y);
  };
  const bed = random.even(0.3, 0.7) * height;
  const channelAt = (x: number, y: number): number =>
    x > width * 0.5 ? 0 : Math.exp(-(((y - bed - 60 * fine(x, 0)) / 22) ** 2)) * Math.min(1, 2 - (4 * x) / width);
  return { width, height, flatDepth, channelAt, launch: [width * 0.5, height * 0.03] };
}

/** A long narrow lake with steep sides, deep along its middle, shallow bays at both ends. */
function trench(seed: number, random: Random): Shape {
  const [width, height] = [random.even(4800, 5600), random.even(1500, 1900)];
  const bend = random.even(0.7, 1.2);
  const rough = smoothNoise(seed + 1, 300);
  const fine = smoothNoise(seed + 2, 120);
  const deepest = random.even(30, 42);
  const line = (x: number): number => height * (0.5 + 0.16 * Math.sin((x / width) * Math.PI * 2 * bend));
  const flatDepth = (x: number, y: number): number => {
    const along = x / width;
    if (along < 0.02 || along > 0.98) return -1;
    const ends = Math.min(1, (along - 0.02) / 0.14, (0.98 - along) / 0.14);
    const half =
      (360 + 120 * rough(x, 0) + 60 * fine(x, y)) * (0.55 + 0.45 * Math.sqrt(Math.max(0, ends))) + 180 * (1 - ends) * rough(y, x);
    const off = Math.abs(y - line(x)) / half;
    // Where it narrows to nothing there is land.
    if (half <= 0 || off >= 1) return -1;
    // A shelf of some metres, then the side falls away.
    const shelf = 3.5 * (1 - off);
    const side = (deepest - 3.5) * Math.max(0, 1 - (off / 0.72) ** 2) * (0.12 + 0.88 * ends);
    return shelf + side + 0.8 * fine(x, y);
  };
  const channelAt = (x: number, y: number): number => 0.6 * Math.exp(-(((y - line(x)) / 30) ** 2)) * Math.max(0, 1 - x / (width * 0.25));
  return { width, height, flatDepth, channelAt, launch: [width * 0.12, height * 0.2] };
}

/** Four shallow pans joined by narrows: weed, mud, one old river bed through all of them. */
function pans(seed: number, random: Random): Shape {
  const [width, height] = [random.even(4000, 4600), random.even(2200, 2600)];
  const rough = smoothNoise(seed + 1, 360);
  const fine = smoothNoise(seed + 2, 110);
  const centres = [0.15, 0.38, 0.62, 0.85].map((at, k) => ({
    x: width * at,
    y: height * (0.5 + (k % 2 ? 0.17 : -0.17) + random.even(-0.05, 0.05)),
    wide: random.even(430, 560),
    deep: random.even(4, 8.5),
  }));
  const line = (x: number): number => {
    const k = Math.min(centres.length - 2, Math.max(0, centres.findIndex((c) => c.x > x) - 1));
    const [a, b] = [centres[k], centres[k + 1]];
    const t = Math.min(1, Math.max(0, (x - a.x) / (b.x - a.x)));
    return a.y + (b.y - a.y) * t * t * (3 - 2 * t);
  };
  const flatDepth = (x: number, y: number): number => {
    let d = -1;
    for (const c of centres) {
      const off = Math.hypot(x - c.x, y - c.y) / (c.wide * (1 + 0.3 * rough(x, y) + 0.08 * fine(x, y)));
      if (off < 1) d = Math.max(d, c.deep * (1 - off ** 2.5));
    }
    const narrows = Math.abs(y - line(x)) / (130 + 40 * rough(y, x));
    if (narrows < 1 && x > centres[0].x && x < centres[3].x) d = Math.max(d, 3.2 * (1 - narrows ** 2));
    return d > 0 ? d + 0.4 * rough(x * 1.4, y * 1.4) + 0.3 * fine(x, y) : d;
  };
  const channelAt = (x: number, y: number): number =>
    x > centres[0].x && x < centres[3].x ? Math.exp(-(((y - line(x) - 30 * fine(x, 0)) / 24) ** 2)) : 0;
  return { width, height, flatDepth, channelAt, launch: [width * 0.15, height * 0.1] };
}

export const SHAPES: Record<ShapeKind, (seed: number, random: Random) => Shape> = { valley: reservoir, bowl, trench, pans, sound, reach };
