import type { Raster } from '../geo';

/** Values at places, already thinned: one entry a small square. */
export interface Bins {
  x: Float64Array;
  y: Float64Array;
  value: Float64Array;
  /** How much each counts; 1 is one good sounding. */
  weight: Float64Array;
  count: number;
}

/** How stiff the surface is. */
export interface Stiffness {
  /** Resistance to bending, m²: features narrower than about its fourth root times the spacing of the data are smoothed. */
  bending: number;
  /** Resistance to tilting, no unit: keeps the surface from swinging out where nothing was sounded. */
  tension: number;
}

const X_TRIPLE = 1;
const Y_TRIPLE = 2;
const BLOCK = 4;
const EAST = 8;
const NORTH = 16;
/** All that can bear on the cell is there: the common case, and quick. */
const FULL = 32;

/** One level of the pyramid: which cells are water and how the data weigh on them. */
interface Level {
  width: number;
  height: number;
  size: number;
  flags: Uint8Array;
  mask: Uint8Array;
  /** Four cells and four shares a bin. */
  cells: Int32Array;
  shares: Float32Array;
  value: Float64Array;
  weight: Float64Array;
}

function flagsOf(mask: Uint8Array, width: number, height: number): Uint8Array {
  const flags = new Uint8Array(mask.length);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (!mask[k]) continue;
      const east = i + 1 < width && mask[k + 1] === 1;
      const north = j + 1 < height && mask[k + width] === 1;
      let f = (east ? EAST : 0) | (north ? NORTH : 0);
      if (east && i > 0 && mask[k - 1]) f |= X_TRIPLE;
      if (north && j > 0 && mask[k - width]) f |= Y_TRIPLE;
      if (east && north && mask[k + width + 1]) f |= BLOCK;
      flags[k] = f;
    }
  for (let j = 2; j < height - 2; j++)
    for (let i = 2; i < width - 2; i++) {
      const k = j * width + i;
      if (
        (flags[k] & 31) === 31 &&
        (flags[k - 1] & X_TRIPLE && flags[k + 1] & X_TRIPLE && flags[k - width] & Y_TRIPLE && flags[k + width] & Y_TRIPLE) !== 0 &&
        (flags[k - 1] & BLOCK && flags[k - width] & BLOCK && flags[k - width - 1] & BLOCK) !== 0
      )
        flags[k] |= FULL;
    }
  return flags;
}

/** Means of bins that share a square of `size` metres. */
export function mergeBins(bins: Bins, size: number): Bins {
  const sums = new Map<number, number>();
  const out: Bins = {
    x: new Float64Array(bins.count),
    y: new Float64Array(bins.count),
    value: new Float64Array(bins.count),
    weight: new Float64Array(bins.count),
    count: 0,
  };
  // Soundings follow each other along a pass: most lie in the square of the one before.
  let [last, n] = [NaN, 0];
  for (let i = 0; i < bins.count; i++) {
    const key = Math.floor(bins.y[i] / size) * 16777216 + Math.floor(bins.x[i] / size);
    if (key !== last) {
      last = key;
      const known = sums.get(key);
      if (known === undefined) sums.set(key, (n = out.count++));
      else n = known;
    }
    const w = bins.weight[i];
    out.x[n] += w * bins.x[i];
    out.y[n] += w * bins.y[i];
    out.value[n] += w * bins.value[i];
    out.weight[n] += w;
  }
  for (let m = 0; m < out.count; m++) {
    out.x[m] /= out.weight[m];
    out.y[m] /= out.weight[m];
    out.value[m] /= out.weight[m];
  }
  return out;
}

function levelOf(x0: number, y0: number, size: number, width: number, height: number, mask: Uint8Array, bins: Bins): Level {
  const n = bins.count;
  const cells = new Int32Array(4 * n);
  const shares = new Float32Array(4 * n);
  for (let b = 0; b < n; b++) {
    const gx = (bins.x[b] - x0) / size - 0.5;
    const gy = (bins.y[b] - y0) / size - 0.5;
    const i = Math.floor(gx);
    const j = Math.floor(gy);
    const [u, v] = [gx - i, gy - j];
    let total = 0;
    for (let c = 0; c < 4; c++) {
      const ci = i + (c & 1);
      const cj = j + (c >> 1);
      const k = cj * width + ci;
      if (ci < 0 || cj < 0 || ci >= width || cj >= height || !mask[k]) continue;
      const share = (c & 1 ? u : 1 - u) * (c >> 1 ? v : 1 - v);
      cells[4 * b + c] = k;
      shares[4 * b + c] = share;
      total += share;
    }
    if (total > 0) for (let c = 0; c < 4; c++) shares[4 * b + c] /= total;
  }
  return { width, height, size, mask, flags: flagsOf(mask, width, height), cells, shares, value: bins.value, weight: bins.weight };
}

/** out = A·z, where A is the energy's matrix: data, bending and tension. */
function apply(level: Level, bending: number, tension: number, z: Float32Array, out: Float32Array): void {
  const { width, flags, cells, shares, weight } = level;
  const bend = bending / (level.size * level.size);
  const [two, up2] = [2, 2 * width];
  const centre = 20 * bend + 4 * tension;
  const side = 8 * bend + tension;
  for (let k = 0; k < flags.length; k++) {
    const f = flags[k];
    if (f & FULL)
      // The thirteen points of the biharmonic and the five of the harmonic in one.
      out[k] =
        centre * z[k] -
        side * (z[k - 1] + z[k + 1] + z[k - width] + z[k + width]) +
        2 * bend * (z[k - width - 1] + z[k - width + 1] + z[k + width - 1] + z[k + width + 1]) +
        bend * (z[k - two] + z[k + two] + z[k - up2] + z[k + up2]);
    else out[k] = f === 0 && !level.mask[k] ? 0 : partial(level, bend, tension, z, k);
  }
  for (let b = 0, c = 0; b < weight.length && c < cells.length; b++, c += 4) {
    const r =
      weight[b] *
      (shares[c] * z[cells[c]] + shares[c + 1] * z[cells[c + 1]] + shares[c + 2] * z[cells[c + 2]] + shares[c + 3] * z[cells[c + 3]]);
    out[cells[c]] += shares[c] * r;
    out[cells[c + 1]] += shares[c + 1] * r;
    out[cells[c + 2]] += shares[c + 2] * r;
    out[cells[c + 3]] += shares[c + 3] * r;
  }
}

/** A row of bending and tension at a cell near the rim: only the parts that lie in the water. */
function partial({ width, flags }: Level, bend: number, tension: number, z: Float32Array, k: number): number {
  const tripleX = (m: number): number => z[m - 1] - 2 * z[m] + z[m + 1];
  const tripleY = (m: number): number => z[m - width] - 2 * z[m] + z[m + width];
  const block = (m: number): number => z[m + width + 1] - z[m + width] - z[m + 1] + z[m];
  let sum = 0;
  if (flags[k] & X_TRIPLE) sum -= 2 * bend * tripleX(k);
  if (flags[k - 1] & X_TRIPLE) sum += bend * tripleX(k - 1);
  if (flags[k + 1] & X_TRIPLE) sum += bend * tripleX(k + 1);
  if (flags[k] & Y_TRIPLE) sum -= 2 * bend * tripleY(k);
  if (flags[k - width] & Y_TRIPLE) sum += bend * tripleY(k - width);
  if (flags[k + width] & Y_TRIPLE) sum += bend * tripleY(k + width);
  if (flags[k] & BLOCK) sum += 2 * bend * block(k);
  if (flags[k - 1] & BLOCK) sum -= 2 * bend * block(k - 1);
  if (flags[k - width] & BLOCK) sum -= 2 * bend * block(k - width);
  if (flags[k - width - 1] & BLOCK) sum += 2 * bend * block(k - width - 1);
  if (flags[k] & EAST) sum += tension * (z[k] - z[k + 1]);
  if (flags[k - 1] & EAST) sum += tension * (z[k] - z[k - 1]);
  if (flags[k] & NORTH) sum += tension * (z[k] - z[k + width]);
  if (flags[k - width] & NORTH) sum += tension * (z[k] - z[k - width]);
  return sum;
}

/** Diagonal of A, for preconditioning. */
function diagonal(level: Level, bending: number, tension: number): Float32Array {
  const { width, flags, cells, shares, weight } = level;
  const d = new Float32Array(flags.length);
  const bend = bending / (level.size * level.size);
  for (let k = 0; k < flags.length; k++) {
    const f = flags[k];
    if (f & X_TRIPLE) {
      d[k - 1] += bend;
      d[k] += 4 * bend;
      d[k + 1] += bend;
    }
    if (f & Y_TRIPLE) {
      d[k - width] += bend;
      d[k] += 4 * bend;
      d[k + width] += bend;
    }
    if (f & BLOCK) for (const m of [k, k + 1, k + width, k + width + 1]) d[m] += 2 * bend;
    if (f & EAST) {
      d[k] += tension;
      d[k + 1] += tension;
    }
    if (f & NORTH) {
      d[k] += tension;
      d[k + width] += tension;
    }
  }
  for (let c = 0; c < cells.length; c++) d[cells[c]] += weight[c >> 2] * shares[c] * shares[c];
  return d;
}

/** Conjugate gradients from z, in place. @returns rounds taken */
function solve(level: Level, { bending, tension }: Stiffness, z: Float32Array, max: number, tolerance: number): number {
  const n = z.length;
  const { cells, shares, weight, value } = level;
  // What is put right in a round needs no more digits than these, and half the memory goes by twice as fast.
  const r = new Float32Array(n);
  const q = new Float32Array(n);
  apply(level, bending, tension, z, q);
  for (let b = 0; b < weight.length; b++) {
    const w = weight[b] * value[b];
    for (let c = 4 * b; c < 4 * b + 4; c++) r[cells[c]] += shares[c] * w;
  }
  const inverse = diagonal(level, bending, tension);
  for (let k = 0; k < n; k++) inverse[k] = inverse[k] > 0 ? 1 / inverse[k] : 0;
  const p = new Float32Array(n);
  let rho = 0;
  for (let k = 0; k < n; k++) {
    r[k] -= q[k];
    p[k] = inverse[k] * r[k];
    rho += r[k] * p[k];
  }
  let round = 0;
  for (; round < max && rho > 0; round++) {
    apply(level, bending, tension, p, q);
    let pq = 0;
    for (let k = 0; k < n; k++) pq += p[k] * q[k];
    if (!(pq > 0)) break;
    const a = rho / pq;
    let next = 0;
    let step = 0;
    for (let k = 0; k < n; k++) {
      const move = a * p[k];
      z[k] += move;
      if (move > step) step = move;
      else if (-move > step) step = -move;
      r[k] -= a * q[k];
      next += inverse[k] * r[k] * r[k];
    }
    if (step < tolerance) break;
    const beta = next / rho;
    rho = next;
    for (let k = 0; k < n; k++) p[k] = inverse[k] * r[k] + beta * p[k];
  }
  return round;
}

export interface SurfaceOptions extends Stiffness {
  onProgress?: (share: number) => void;
  /** Rounds at the finest level. */
  rounds?: number;
  /** A round that moves no cell by more than this ends a level, m. */
  tolerance?: number;
}

/**
 * Fits a smooth surface to thinned values: least bending and a little tension, over the cells of a mask only, so that
 * water on the far side of a spit has no say. Solved from coarse to fine by conjugate gradients.
 * Source of the energy: splines in tension, Smith & Wessel 1990; thin plates as a penalty, Terzopoulos 1988.
 * @param into is filled inside the mask @param mask 1 where the surface is wanted
 */
export function fitSurface(bins: Bins, into: Raster, mask: Uint8Array, options: SurfaceOptions): void {
  if (bins.count === 0) return;
  const frames: { size: number; width: number; height: number; mask: Uint8Array }[] = [
    { size: into.size, width: into.width, height: into.height, mask },
  ];
  while (Math.max(frames[0].width, frames[0].height) > 12) {
    const f = frames[0];
    const [width, height] = [Math.ceil(f.width / 2), Math.ceil(f.height / 2)];
    const coarse = new Uint8Array(width * height);
    for (let j = 0; j < f.height; j++)
      for (let i = 0; i < f.width; i++) if (f.mask[j * f.width + i]) coarse[(j >> 1) * width + (i >> 1)] = 1;
    frames.unshift({ size: f.size * 2, width, height, mask: coarse });
  }
  let mean = 0;
  let weight = 0;
  for (let b = 0; b < bins.count; b++) {
    mean += bins.weight[b] * bins.value[b];
    weight += bins.weight[b];
  }
  const pyramid: Bins[] = new Array<Bins>(frames.length);
  pyramid[frames.length - 1] = bins;
  for (let l = frames.length - 2; l >= 0; l--) pyramid[l] = mergeBins(pyramid[l + 1], frames[l].size);
  let z = new Float32Array(frames[0].width * frames[0].height).fill(mean / weight);
  let before = frames[0];
  frames.forEach((f, l) => {
    if (l > 0) {
      const next = new Float32Array(f.width * f.height);
      prolong(z, before, next, f);
      z = next;
      before = f;
    }
    const level = levelOf(into.x0, into.y0, f.size, f.width, f.height, f.mask, pyramid[l]);
    solve(level, options, z, l === frames.length - 1 ? (options.rounds ?? 10) : 24, options.tolerance ?? 0.004);
    options.onProgress?.((l + 1) / frames.length);
  });
  for (let k = 0; k < mask.length; k++) if (mask[k]) into.data[k] = z[k];
}

/** Carries a coarse surface to the next finer grid by bilinear interpolation between known cells. */
function prolong(
  z: Float32Array,
  from: { width: number; height: number; mask: Uint8Array },
  out: Float32Array,
  to: { width: number; height: number; mask: Uint8Array },
): void {
  for (let j = 0; j < to.height; j++)
    for (let i = 0; i < to.width; i++) {
      if (!to.mask[j * to.width + i]) continue;
      const [ci, cj] = [i >> 1, j >> 1];
      const [si, sj] = [i & 1 ? 1 : -1, j & 1 ? 1 : -1];
      let sum = 0;
      let total = 0;
      for (let c = 0; c < 4; c++) {
        const ni = ci + (c & 1 ? si : 0);
        const nj = cj + (c & 2 ? sj : 0);
        const k = nj * from.width + ni;
        if (ni < 0 || nj < 0 || ni >= from.width || nj >= from.height || !from.mask[k]) continue;
        const w = (c & 1 ? 0.25 : 0.75) * (c & 2 ? 0.25 : 0.75);
        sum += w * z[k];
        total += w;
      }
      out[j * to.width + i] = sum / total;
    }
}

/** Spread of thinned values about a surface, in its units; what lies outside the mask is passed over. */
export function residualSpread(bins: Bins, surface: Raster, mask: Uint8Array): number {
  let [sum, n] = [0, 0];
  const level = levelOf(surface.x0, surface.y0, surface.size, surface.width, surface.height, mask, bins);
  for (let b = 0; b < bins.count; b++) {
    let [z, total] = [0, 0];
    for (let c = 4 * b; c < 4 * b + 4; c++) {
      z += level.shares[c] * surface.data[level.cells[c]];
      total += level.shares[c];
    }
    if (total === 0 || Number.isNaN(z)) continue;
    sum += (z - bins.value[b]) ** 2;
    n++;
  }
  return n ? Math.sqrt(sum / n) : 0;
}
