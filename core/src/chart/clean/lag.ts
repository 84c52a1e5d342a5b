import { Raster } from '../../geo';
import { fitSurface, mergeBins, type Bins } from '../surface';
import type { Pass, SoundingTable } from './table';

/** Lags looked for, s. */
const MOST = 4.8;
/** Soundings it is told by, at most. */
const MOST_SOUNDINGS = 24_000;
/** Finest step of the search, s; between steps a parabola tells. */
const FINE = 0.3;

export interface Lag {
  /** Seconds by which the depth is older than the position it was logged with; 0 where none was found. */
  seconds: number;
  /** Soundings it was estimated from. */
  n: number;
  /** Spread between opposite passes before and after, m. */
  before: number;
  after: number;
}

/** Places of a pass at a moment that lies `seconds` before (or after) each sounding's own, in place. */
export function shiftAlong(
  { time, x, y }: Pick<SoundingTable, 'time' | 'x' | 'y'>,
  { from, to }: Pass,
  seconds: number,
): [Float64Array, Float64Array] {
  const n = to - from;
  const [sx, sy] = [new Float64Array(n), new Float64Array(n)];
  let k = from;
  for (let i = from; i < to; i++) {
    const t = time[i] - seconds * 1000;
    while (k > from && time[k] > t) k--;
    while (k + 2 < to && time[k + 1] < t) k++;
    const m = Math.min(k + 1, to - 1);
    const span = time[m] - time[k];
    // Beyond the ends the boat is taken to have held its course, for no more than the lag.
    const share = span > 0 ? (t - time[k]) / span : 0;
    sx[i - from] = x[k] + share * (x[m] - x[k]);
    sy[i - from] = y[k] + share * (y[m] - y[k]);
  }
  return [sx, sy];
}

/**
 * Estimates the lag between position and depth of one survey from passes in opposite directions: a surface made from
 * the ones is held against the others, and the lag that makes them agree best is the lag.
 * @returns null when there are no opposite passes to tell it by
 */
export function estimateLag(table: SoundingTable, all: Pass[], left: Uint8Array): Lag | null {
  const { x, y, depth } = table;
  const passes = some(all);
  const groups = opposite(table, passes);
  if (!groups) return null;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { from, to } of passes)
    for (let i = from; i < to; i++)
      if (!left[i]) {
        x0 = Math.min(x0, x[i]);
        x1 = Math.max(x1, x[i]);
        y0 = Math.min(y0, y[i]);
        y1 = Math.max(y1, y[i]);
      }
  // About 8,000 cells are enough to tell a lag by, and quick.
  const size = Math.max(6, Math.sqrt(((x1 - x0 + 40) * (y1 - y0 + 40)) / 8_000));
  const [width, height] = [Math.ceil((x1 - x0 + 40) / size), Math.ceil((y1 - y0 + 40) / size)];
  const mask = new Uint8Array(width * height).fill(1);
  const binsOf = (some: Pass[], seconds: number): Bins => {
    const n = some.reduce((sum, p) => sum + p.to - p.from, 0);
    const bins: Bins = {
      x: new Float64Array(n),
      y: new Float64Array(n),
      value: new Float64Array(n),
      weight: new Float64Array(n),
      count: 0,
    };
    for (const pass of some) {
      const [sx, sy] = shiftAlong(table, pass, seconds);
      for (let i = pass.from; i < pass.to; i++) {
        if (left[i]) continue;
        bins.x[bins.count] = sx[i - pass.from];
        bins.y[bins.count] = sy[i - pass.from];
        bins.value[bins.count] = depth[i];
        bins.weight[bins.count++] = 1;
      }
    }
    return mergeBins(bins, size);
  };
  let n = 0;
  const spread = (seconds: number): number => {
    let [sum, count] = [0, 0];
    const [a, b] = groups.map((g) => binsOf(g, seconds));
    for (const [from, held] of [
      [a, b],
      [b, a],
    ]) {
      const surface = new Raster(x0 - 20, y0 - 20, size, width, height);
      const near = new Uint8Array(mask.length);
      for (let k = 0; k < from.count; k++) near[surface.index(from.x[k], from.y[k])] = 1;
      fitSurface(from, surface, mask, { bending: 30, tension: 0.001, rounds: 10, tolerance: 0.02 });
      for (let k = 0; k < held.count; k++) {
        const at = surface.index(held.x[k], held.y[k]);
        if (at < 0 || !nearBy(near, at, width, size)) continue;
        // Clipped, so that one wild place does not decide.
        const off = Math.min(2, Math.abs(bilinear(surface, held.x[k], held.y[k]) - held.value[k]));
        sum += off * off;
        count++;
      }
    }
    n = count;
    return count ? Math.sqrt(sum / count) : Infinity;
  };
  const before = spread(0);
  if (n < 100) return null;
  const tried = new Map<number, number>([[0, before]]);
  const at = (s: number): number => {
    const known = tried.get(s);
    if (known !== undefined) return known;
    const found = spread(s);
    tried.set(s, found);
    return found;
  };
  let best = 0;
  for (const s of [-MOST, -MOST / 2, MOST / 2, MOST]) if (at(s) < at(best)) best = s;
  for (const step of [1.2, 0.6, FINE]) {
    const middle = best;
    for (const s of [middle - step, middle + step]) if (at(s) < at(best)) best = s;
  }
  // The bottom of the parabola through the squares of the best three.
  const [l, m, r] = [at(best - FINE) ** 2, at(best) ** 2, at(best + FINE) ** 2];
  const curve = (l - 2 * m + r) / (2 * FINE * FINE);
  const seconds = best + (curve > 0 ? Math.max(-FINE, Math.min(FINE, (l - r) / (4 * FINE * curve))) : 0);
  // How well it is told: neighbours along a pass err alike, so that ten count as one.
  const error = Math.sqrt(m / ((n / 10) * Math.max(curve, 1e-9)));
  if (Math.abs(seconds) < Math.max(0.2, 3.5 * error)) return { seconds: 0, n, before, after: before };
  return { seconds, n, before, after: spread(seconds) };
}

/** Passes that follow each other, from the middle of a long survey, some 24,000 soundings: a lag shows in any part. */
function some(passes: Pass[]): Pass[] {
  const total = passes.reduce((sum, p) => sum + p.to - p.from, 0);
  if (total <= MOST_SOUNDINGS) return passes;
  let skip = (total - MOST_SOUNDINGS) / 2;
  let room = MOST_SOUNDINGS;
  return passes.flatMap((p) => {
    const n = p.to - p.from;
    skip -= n;
    if (skip > 0 || room <= 0) return [];
    const taken = { from: p.from, to: p.from + Math.min(n, room) };
    room -= n;
    return [taken];
  });
}

/** Whether a cell has data of the surface within 60 m, so that it is not held against a guess. */
function nearBy(near: Uint8Array, at: number, width: number, size: number): boolean {
  const reach = Math.max(1, Math.min(8, Math.round(60 / size)));
  const [ci, cj] = [at % width, Math.floor(at / width)];
  for (let j = Math.max(0, cj - reach); j <= cj + reach; j++)
    for (let i = Math.max(0, ci - reach); i <= Math.min(width - 1, ci + reach); i++) if (near[j * width + i]) return true;
  return false;
}

function bilinear(raster: Raster, x: number, y: number): number {
  const [gx, gy] = [(x - raster.x0) / raster.size - 0.5, (y - raster.y0) / raster.size - 0.5];
  const i = Math.max(0, Math.min(raster.width - 2, Math.floor(gx)));
  const j = Math.max(0, Math.min(raster.height - 2, Math.floor(gy)));
  const [u, v] = [gx - i, gy - j];
  const k = j * raster.width + i;
  const d = raster.data;
  return (d[k] * (1 - u) + d[k + 1] * u) * (1 - v) + (d[k + raster.width] * (1 - u) + d[k + raster.width + 1] * u) * v;
}

/** Passes in the one and in the other direction along the survey's main axis; null when nearly all go one way. */
function opposite({ x, y }: SoundingTable, passes: Pass[]): [Pass[], Pass[]] | null {
  const moves = passes.map(({ from, to }) => [x[to - 1] - x[from], y[to - 1] - y[from]]);
  let [xx, xy, yy] = [0, 0, 0];
  for (const [dx, dy] of moves) {
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
  const [ax, ay] = [Math.cos(angle), Math.sin(angle)];
  const groups: [Pass[], Pass[]] = [[], []];
  const lengths = [0, 0];
  passes.forEach((pass, k) => {
    const along = moves[k][0] * ax + moves[k][1] * ay;
    if (Math.abs(along) < 20) return;
    groups[along > 0 ? 0 : 1].push(pass);
    lengths[along > 0 ? 0 : 1] += pass.to - pass.from;
  });
  return Math.min(...lengths) > 0.15 * (lengths[0] + lengths[1]) ? groups : null;
}
