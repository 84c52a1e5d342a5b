import type { Brightness } from './count-blobs';
import type { Pixels } from './straighten';

type Colour = readonly [number, number, number];

/** Colours of a legend from the weakest echo to the strongest, as touched. */
export type Legend = readonly Colour[];

/** Shades that a colour is looked up by: 32 of each channel. */
const BITS = 3;
const SIDE = 256 >> BITS;

const squared = (a: Colour, b: Colour): number => (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2;

/** Strength of a colour, 0–255: how far along the legend's colours its nearest point lies. */
export function strengthOf(colour: Colour, legend: Legend): number {
  let [best, at] = [Infinity, 0];
  for (let k = 0; k + 1 < legend.length; k++) {
    const [a, b] = [legend[k], legend[k + 1]];
    const length = squared(a, b);
    const dot = (colour[0] - a[0]) * (b[0] - a[0]) + (colour[1] - a[1]) * (b[1] - a[1]) + (colour[2] - a[2]) * (b[2] - a[2]);
    const along = length ? Math.max(0, Math.min(1, dot / length)) : 0;
    const off = squared(colour, [a[0] + along * (b[0] - a[0]), a[1] + along * (b[1] - a[1]), a[2] + along * (b[2] - a[2])]);
    if (off < best) [best, at] = [off, (k + along) / (legend.length - 1)];
  }
  return 255 * at;
}

/**
 * How strong the echoes of a picture are, 0–255: by a legend's colours where one was touched, else by brightness (Rec. 709 luma). What is
 * dark on a light ground is turned over: water without an echo is most of any picture.
 */
export function strengthsOf({ width, height, data }: Pixels, legend: Legend | null): Brightness & { levels: Uint8Array } {
  const levels = new Uint8Array(width * height);
  if (legend && legend.length > 1) {
    // Each shade is worked out once.
    const table = new Int16Array(SIDE ** 3).fill(-1);
    for (let i = 0; i < levels.length; i++) {
      const [r, g, b] = [data[4 * i], data[4 * i + 1], data[4 * i + 2]];
      const shade = ((r >> BITS) * SIDE + (g >> BITS)) * SIDE + (b >> BITS);
      if (table[shade] < 0) table[shade] = Math.round(strengthOf([r, g, b], legend));
      levels[i] = table[shade];
    }
    return { width, height, levels };
  }
  const seen = new Float64Array(256);
  for (let i = 0; i < levels.length; i++) {
    levels[i] = Math.round(0.2126 * data[4 * i] + 0.7152 * data[4 * i + 1] + 0.0722 * data[4 * i + 2]);
    seen[levels[i]]++;
  }
  let [middle, sum] = [0, 0];
  while (middle < 255 && (sum += seen[middle]) < levels.length / 2) middle++;
  if (middle > 127) for (let i = 0; i < levels.length; i++) levels[i] = 255 - levels[i];
  return { width, height, levels };
}

/** An outline on a picture, px. */
export type Outline = readonly { x: number; y: number }[];

/** Whether a point lies within an outline (crossings of a ray). */
function within(x: number, y: number, outline: Outline): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [a, b] = [outline[i], outline[j]];
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  }
  return inside;
}

/**
 * What an outline holds of a picture, cut out; about it everything is as the middle of the cut's rim, so that no edge stands out.
 * @param most pixels of the cut at most: a larger one is made smaller by whole steps, each the mean of what it stands for
 * @returns the cut, where its corner lies, and how many px of the picture one of it is; null where the outline holds nothing
 */
export function cutOut(
  picture: Brightness,
  outline: Outline,
  most: number,
): (Brightness & { left: number; top: number; step: number }) | null {
  const [xs, ys] = [outline.map((p) => p.x), outline.map((p) => p.y)];
  const [left, top] = [Math.max(0, Math.floor(Math.min(...xs))), Math.max(0, Math.floor(Math.min(...ys)))];
  const [right, bottom] = [Math.min(picture.width, Math.ceil(Math.max(...xs))), Math.min(picture.height, Math.ceil(Math.max(...ys)))];
  if (outline.length < 3 || right - left < 1 || bottom - top < 1) return null;
  const step = Math.max(1, Math.ceil(Math.sqrt(((right - left) * (bottom - top)) / most)));
  const [width, height] = [Math.ceil((right - left) / step), Math.ceil((bottom - top) / step)];
  const levels = new Float32Array(width * height).fill(NaN);
  const seen: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = [left + x * step, top + y * step];
      if (!within(px + step / 2, py + step / 2, outline)) continue;
      let [sum, n] = [0, 0];
      for (let j = py; j < Math.min(bottom, py + step); j++)
        for (let i = px; i < Math.min(right, px + step); i++, n++) sum += picture.levels[j * picture.width + i];
      levels[y * width + x] = sum / n;
      seen.push(sum / n);
    }
  if (!seen.length) return null;
  // Water is most of what somebody draws round a school.
  seen.sort((a, b) => a - b);
  const ground = seen[seen.length >> 2];
  for (let i = 0; i < levels.length; i++) if (Number.isNaN(levels[i])) levels[i] = ground;
  return { width, height, levels, left, top, step };
}

/** How bright one patch of the bottom is beside another. */
export interface PatchContrast {
  /** Of the whole scale of strength: positive where it is brighter than the reference. */
  difference: number;
  /** Its standard error, from the spread within both. */
  error: number;
  told: 'harder' | 'alike' | 'softer';
}

/** Neighbouring pixels of a picture repeat each other: so many count as one. */
const REPEATED = 25;
/** Differences beyond so many standard errors and this share of the scale are told. */
const [SURE, LEAST] = [2, 0.04];

/**
 * Hardness of a patch of bottom against a reference patch, by their echoes' strength: both have to lie about as deep and under the same
 * settings.
 * @param patch @param reference strengths, 0–255
 */
export function patchContrast(patch: ArrayLike<number>, reference: ArrayLike<number>): PatchContrast {
  const of = (values: ArrayLike<number>): { mean: number; variance: number } => {
    const list = Array.from(values);
    const mean = list.reduce((s, v) => s + v, 0) / list.length;
    return { mean, variance: list.reduce((s, v) => s + (v - mean) ** 2, 0) / list.length / Math.max(1, list.length / REPEATED) };
  };
  const [a, b] = [of(patch), of(reference)];
  const difference = (a.mean - b.mean) / 255;
  const error = Math.sqrt(a.variance + b.variance) / 255;
  const told = Math.abs(difference) < Math.max(LEAST, SURE * error) ? 'alike' : difference > 0 ? 'harder' : 'softer';
  return { difference, error, told };
}
