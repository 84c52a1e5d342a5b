import { CELL, type Raster } from '@restless-shoal/core/geo';
import type { CellTable } from '@restless-shoal/core/chart';
import { themeColour } from '../../state/theme';

type Rgb = [number, number, number];

/** A picture with its place in the water's plane, m. */
export interface PlacedPicture {
  canvas: HTMLCanvasElement;
  /** West, south, east, north. */
  extent: [number, number, number, number];
}

const mix = (a: Rgb, b: Rgb, t: number): Rgb => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];

/** Five steps of the depth ramp as a table of 256 colours. */
function depthRamp(): Rgb[] {
  const steps = ['--w0', '--w1', '--w2', '--w3', '--w4'].map(themeColour);
  return Array.from({ length: 256 }, (_, k) => {
    const t = (k / 255) * 3.999;
    const i = Math.floor(t);
    return mix(steps[i], steps[i + 1], t - i);
  });
}

/** Ground that lies dry: the theme's ground with a little of the colour of the bottom, hatched: colour never stands alone. */
const dryGround = (k: number, width: number, plain: Rgb, hatch: Rgb): Rgb =>
  ((k % width) + Math.floor(k / width)) % 4 === 0 ? hatch : plain;

/** Depths carried a few cells beyond the shore, so that the clipped picture reaches its edge. */
function spread(raster: Raster): Float32Array {
  const { width, height } = raster;
  let data = raster.data;
  for (let pass = 0; pass < 3; pass++) {
    const next = Float32Array.from(data);
    for (let j = 0; j < height; j++)
      for (let i = 0; i < width; i++) {
        const k = j * width + i;
        if (!Number.isNaN(data[k])) continue;
        for (const m of [i > 0 ? k - 1 : k, i < width - 1 ? k + 1 : k, j > 0 ? k - width : k, j < height - 1 ? k + width : k])
          if (!Number.isNaN(data[m])) {
            next[k] = data[m];
            break;
          }
      }
    data = next;
  }
  return data;
}

function paint(width: number, height: number, colour: (k: number) => [number, number, number, number] | null): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const c = colour(j * width + i);
      if (!c) continue;
      // Rasters start in the south, pictures in the north.
      const o = ((height - 1 - j) * width + i) * 4;
      image.data[o] = c[0];
      image.data[o + 1] = c[1];
      image.data[o + 2] = c[2];
      image.data[o + 3] = c[3];
    }
  context.putImageData(image, 0, 0);
  return canvas;
}

/**
 * The bottom in the depth ramp with a little relief. With a band, what has its bottom inside it stays, open water
 * over a deeper bottom turns pale, and what is shallower fades out. Ground above the water is hatched.
 */
export function depthPicture(raster: Raster, deepest: number, band: [number, number] | null, relief = true): PlacedPicture {
  const { width, height, x0, y0, size } = raster;
  const data = spread(raster);
  const ramp = depthRamp();
  const [ground, line, act] = [themeColour('--ground'), themeColour('--line'), themeColour('--act')];
  const foot = themeColour('--foot');
  const [dry, hatch] = [mix(ground, foot, 0.16), mix(ground, foot, 0.42)];
  const canvas = paint(width, height, (k) => {
    const d = data[k];
    if (Number.isNaN(d)) return null;
    if (d < 0) return [...dryGround(k, width, dry, hatch), 255];
    let c = ramp[Math.min(255, Math.max(0, Math.round((d / deepest) * 255)))];
    // Light from the north-west, on the fall over two cells each way: the scatter of soundings is no relief.
    const fall = (step: number): number => {
      const [before, after] = [data[k - 2 * step], data[k + 2 * step]];
      return before === before && after === after && before !== undefined && after !== undefined ? (after - before) / (4 * size) : 0;
    };
    const light = 1 + 2.4 * (fall(1) - fall(width));
    if (relief) c = c.map((v) => v * Math.max(0.7, Math.min(1.13, light))) as Rgb;
    if (band) {
      if (d < band[0]) c = mix(c, ground, 0.82);
      else if (d > band[1]) c = mix(mix(c, line, 0.45), ground, 0.3);
      else c = mix(c, act, 0.45);
    }
    return [c[0], c[1], c[2], 255];
  });
  return { canvas, extent: [x0, y0, x0 + width * size, y0 + height * size] };
}

/** Pixels of a raster painted by their value, nothing where it is not known. */
function rasterPicture(raster: Raster, colour: (v: number) => [number, number, number, number] | null): PlacedPicture {
  const { width, height, x0, y0, size, data } = raster;
  const canvas = paint(width, height, (k) => (Number.isNaN(data[k]) ? null : colour(data[k])));
  return { canvas, extent: [x0, y0, x0 + width * size, y0 + height * size] };
}

/** Hardness of the bottom: the harder, the denser the colour of the foot. */
export function hardnessPicture(hardness: Raster): PlacedPicture {
  const [r, g, b] = themeColour('--foot');
  return rasterPicture(hardness, (v) => [r, g, b, Math.round(235 * Math.max(0, Math.min(1, (v - 0.15) / 0.75)))]);
}

/** Where the bottom is hard, as a mask to be stippled: colour never stands alone. */
export const hardMask = (hardness: Raster): PlacedPicture => rasterPicture(hardness, (v) => (v >= 0.6 ? [255, 255, 255, 255] : null));

/** What is not known fades into the ground: nothing at 0.2 m of expected error, thick from 1.5 m on. */
export function doubtPicture(quality: Raster): PlacedPicture {
  const [r, g, b] = themeColour('--ground');
  return rasterPicture(quality, (v) => [r, g, b, Math.round(235 * Math.max(0, Math.min(1, (v - 0.2) / 1.3)))]);
}

/** Frame of a table of cells: columns and rows it spans. */
function cellFrame(cells: CellTable): { c0: number; r0: number; width: number; height: number } {
  let [c0, c1, r0, r1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < cells.count; i++) {
    c0 = Math.min(c0, cells.column[i]);
    c1 = Math.max(c1, cells.column[i]);
    r0 = Math.min(r0, cells.row[i]);
    r1 = Math.max(r1, cells.row[i]);
  }
  return { c0, r0, width: c1 - c0 + 1, height: r1 - r0 + 1 };
}

function cellPicture(cells: CellTable, colour: (i: number) => [number, number, number, number] | null): PlacedPicture {
  const { c0, r0, width, height } = cellFrame(cells);
  const at = new Int32Array(width * height).fill(-1);
  for (let i = 0; i < cells.count; i++) at[(cells.row[i] - r0) * width + cells.column[i] - c0] = i;
  const canvas = paint(width, height, (k) => (at[k] < 0 ? null : colour(at[k])));
  return { canvas, extent: [c0 * CELL, r0 * CELL, (c0 + width) * CELL, (r0 + height) * CELL] };
}

/** How strongly a chance is painted, 0–1, when `full` is painted fully: even steps of chance would hide the low half. */
export const strength = (p: number, full: number): number => Math.min(1, Math.max(0, p / full)) ** 0.75;

/** Chance of a contact, painted over the bottom: the higher, the denser. */
export function chancePicture(cells: CellTable, probability: Float32Array, full: number): PlacedPicture {
  const [r, g, b] = themeColour('--fish');
  return cellPicture(cells, (i) => [r, g, b, 228 * strength(probability[i], full)]);
}

/** Where the interval is so wide that the chance says little: to be hatched. */
export function unsurePicture(cells: CellTable, low: Float32Array, high: Float32Array, full: number): PlacedPicture {
  return cellPicture(cells, (i) => (high[i] > full * 0.3 && high[i] > 8 * low[i] ? [255, 255, 255, 255] : null));
}

/** Change of the chance: what rises in the colour of fish, what falls in that of the wind; `full` either way is painted fully. */
export function changePicture(cells: CellTable, change: Float32Array, full: number): PlacedPicture {
  const [rise, fall] = [themeColour('--fish'), themeColour('--act')];
  return cellPicture(cells, (i) => {
    const [r, g, b] = change[i] > 0 ? rise : fall;
    return [r, g, b, 228 * strength(Math.abs(change[i]), full)];
  });
}

/** Where the chance falls, to be hatched: colour never stands alone. */
export const fallsPicture = (cells: CellTable, change: Float32Array, full: number): PlacedPicture =>
  cellPicture(cells, (i) => (change[i] < -0.15 * full ? [255, 255, 255, 255] : null));
