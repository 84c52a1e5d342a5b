import type { Raster } from '../../geo';

/** A surface without holes, for derivatives: land and unknown cells carry on what lies nearest. */
export interface Field {
  x0: number;
  y0: number;
  size: number;
  width: number;
  height: number;
  data: Float32Array;
  /** 1 where the chart knows the bottom. */
  known: Uint8Array;
}

/** Fills the unknown cells of a raster with the nearest known ones. */
export function fieldOf(raster: Raster): Field {
  const { width, height } = raster;
  const data = raster.data.slice();
  const known = Uint8Array.from(data, (v) => (Number.isNaN(v) ? 0 : 1));
  const queue = new Int32Array(data.length);
  let tail = 0;
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (!known[k]) continue;
      if (
        (i > 0 && !known[k - 1]) ||
        (i < width - 1 && !known[k + 1]) ||
        (j > 0 && !known[k - width]) ||
        (j < height - 1 && !known[k + width])
      )
        queue[tail++] = k;
    }
  const fill = (from: number, to: number): void => {
    if (Number.isNaN(data[to])) {
      data[to] = data[from];
      queue[tail++] = to;
    }
  };
  for (let head = 0; head < tail; head++) {
    const k = queue[head];
    const i = k % width;
    if (i > 0) fill(k, k - 1);
    if (i < width - 1) fill(k, k + 1);
    if (k >= width) fill(k, k - width);
    if (k + width < width * height) fill(k, k + width);
  }
  return { x0: raster.x0, y0: raster.y0, size: raster.size, width, height, data, known };
}

/** A field blurred by a near-Gaussian of standard deviation `sigma` metres: three running means each way. */
export function blur(field: Field, sigma: number): Field {
  const cells = sigma / field.size;
  const radius = Math.max(1, Math.round((Math.sqrt(4 * cells * cells + 1) - 1) / 2));
  const { width, height } = field;
  let from = field.data;
  let to = new Float32Array(from.length);
  for (let pass = 0; pass < 3; pass++) {
    for (let j = 0; j < height; j++) runningMean(from, to, j * width, 1, width, radius);
    const spare = pass === 0 ? new Float32Array(from.length) : from;
    columnsMean(to, spare, width, height, radius);
    from = spare;
    if (pass === 0) to = new Float32Array(from.length);
  }
  return { ...field, data: from };
}

function runningMean(from: Float32Array, to: Float32Array, start: number, stride: number, n: number, radius: number): void {
  const span = 2 * radius + 1;
  const last = start + (n - 1) * stride;
  let sum = from[start] * (radius + 1);
  for (let i = 1; i <= radius; i++) sum += from[Math.min(last, start + i * stride)];
  for (let i = 0; i < n; i++) {
    const k = start + i * stride;
    to[k] = sum / span;
    const add = i + radius + 1 < n ? k + (radius + 1) * stride : last;
    const drop = i - radius >= 0 ? k - radius * stride : start;
    sum += from[add] - from[drop];
  }
}

/** Running means down all columns at once, row by row: the memory is read in order. */
function columnsMean(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const span = 2 * radius + 1;
  const sum = new Float64Array(width);
  const row = (j: number): number => Math.max(0, Math.min(height - 1, j)) * width;
  for (let j = -radius; j <= radius; j++) for (let i = 0, r = row(j); i < width; i++) sum[i] += from[r + i];
  for (let j = 0; j < height; j++) {
    const [here, add, drop] = [j * width, row(j + radius + 1), row(j - radius)];
    for (let i = 0; i < width; i++) {
      to[here + i] = sum[i] / span;
      sum[i] += from[add + i] - from[drop + i];
    }
  }
}

/** First derivatives of a field at a cell, over `step` cells to each side. */
export function gradientAt({ data, width, size }: Field, k: number, step: number): [gx: number, gy: number] {
  return [(data[k + step] - data[k - step]) / (2 * step * size), (data[k + step * width] - data[k - step * width]) / (2 * step * size)];
}

/** Curvature of a field at a cell: the two principal second derivatives, per metre. */
export interface Curvature {
  /** The larger: positive where the depth grows to both sides. */
  high: number;
  low: number;
  xx: number;
  yy: number;
  xy: number;
}

/** Curvature at a cell, over `step` cells, into an object that is used again: this runs a million times. */
function curvatureAt({ data, width, size }: Field, k: number, step: number, into: Curvature): void {
  const h2 = (step * size) ** 2;
  const d = step * width;
  into.xx = (data[k + step] - 2 * data[k] + data[k - step]) / h2;
  into.yy = (data[k + d] - 2 * data[k] + data[k - d]) / h2;
  into.xy = (data[k + step + d] - data[k - step + d] - data[k + step - d] + data[k - step - d]) / (4 * h2);
  const half = (into.xx - into.yy) / 2;
  const root = Math.sqrt(half * half + into.xy * into.xy);
  into.high = (into.xx + into.yy) / 2 + root;
  into.low = (into.xx + into.yy) / 2 - root;
}

const noCurvature = (): Curvature => ({ high: 0, low: 0, xx: 0, yy: 0, xy: 0 });

/** Unit direction in which the larger curvature is measured; the smaller lies across. */
export function directionOf({ xx, yy, xy }: Curvature): [ux: number, uy: number] {
  const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
  return [Math.cos(angle), Math.sin(angle)];
}

/** Value of a field between cell centres; clamped at its rim. */
export function valueAt({ data, width, height, size, x0, y0 }: Field, x: number, y: number): number {
  const gx = Math.max(0, Math.min(width - 1.001, (x - x0) / size - 0.5));
  const gy = Math.max(0, Math.min(height - 1.001, (y - y0) / size - 0.5));
  const [i, j] = [Math.floor(gx), Math.floor(gy)];
  const [u, v] = [gx - i, gy - j];
  const k = j * width + i;
  return (data[k] * (1 - u) + data[k + 1] * u) * (1 - v) + (data[k + width] * (1 - u) + data[k + width + 1] * u) * v;
}

/** Whether the chart knows the bottom at a place. */
export function knownAt({ known, width, height, size, x0, y0 }: Field, x: number, y: number): boolean {
  const [i, j] = [Math.floor((x - x0) / size), Math.floor((y - y0) / size)];
  return i >= 0 && j >= 0 && i < width && j < height && known[j * width + i] === 1;
}

export const centreOf = ({ x0, y0, size, width }: Field, k: number): [x: number, y: number] => [
  x0 + ((k % width) + 0.5) * size,
  y0 + (Math.floor(k / width) + 0.5) * size,
];

/**
 * Visits the known cells of a blurred field that have neighbours at its scale, with the curvature there.
 * @param visit is given the cell, its curvature (the same object each time) and the step to its neighbours
 */
export function eachCurvature(blurred: Field, sigma: number, visit: (k: number, c: Curvature, step: number) => void): void {
  const { width, height, known, size } = blurred;
  const step = Math.max(1, Math.round((0.6 * sigma) / size));
  const c = noCurvature();
  for (let j = step; j < height - step; j++)
    for (let i = step; i < width - step; i++) {
      const k = j * width + i;
      if (!known[k]) continue;
      curvatureAt(blurred, k, step, c);
      visit(k, c, step);
    }
}

/** Area inside a ring, closed or not, in the square of its unit. Source: the shoelace formula. */
export const ringArea = (ring: number[][]): number =>
  Math.abs(ring.reduce((sum, [x, y], i) => sum + ring.at(i - 1)![0] * y - x * ring.at(i - 1)![1], 0)) / 2;
