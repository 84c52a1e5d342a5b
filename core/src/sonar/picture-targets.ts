import { readAlong, type ScaleMark } from './picture-scale';
import { readSideScan, type Read } from './side-scan-reading';
import type { Pixel } from './straighten';

/** What a picture shows, and the known marks that it is scaled by. */
export type ScaledPicture =
  /** Depths below the surface down the picture. */
  | { view: 'sounder'; depth: readonly [ScaleMark, ScaleMark] }
  /** Slant ranges to both sides of the middle line; where the water column ends, px across. */
  | { view: 'side-scan'; range: readonly [ScaleMark, ScaleMark]; firstBottom: number }
  /** Ranges ahead across the picture, depths below the surface down. */
  | { view: 'forward-facing'; ahead: readonly [ScaleMark, ScaleMark]; depth: readonly [ScaleMark, ScaleMark] };

/** What was touched of a target. */
export interface TouchedTarget {
  at: Pixel;
  /** Near edge of its shadow; null where none was touched. */
  shadow: Pixel | null;
}

/** What it comes to, m, each with its standard error; null what the picture does not say. */
export interface PictureReading {
  /** Below the surface. */
  depth: Read | null;
  /** Over ground, to starboard or ahead positive. */
  starboard: Read | null;
  ahead: Read | null;
  /** Over the bottom. */
  over: Read | null;
  /** Water there, below the surface. */
  water: Read | null;
}

/** Why a target cannot be read: its shadow lies nearer than it, or it lies above the bottom without a shadow that says how far. */
export type ReadingTrouble = 'shadow' | 'range' | 'side';

/**
 * Reads a target off a scaled picture.
 * @param touched how exactly each point was touched, px of the picture
 * @param transducerDepth of the transducer below the surface, m
 */
export function readTarget(
  picture: ScaledPicture,
  { at, shadow }: TouchedTarget,
  touched: number,
  transducerDepth: number,
): PictureReading | ReadingTrouble {
  const none: PictureReading = { depth: null, starboard: null, ahead: null, over: null, water: null };
  if (picture.view === 'sounder') return { ...none, depth: readAlong(at.y, picture.depth, touched) };
  if (picture.view === 'forward-facing')
    return { ...none, depth: readAlong(at.y, picture.depth, touched), ahead: readAlong(at.x, picture.ahead, touched) };
  const along = (x: number): Read => readAlong(x, picture.range, touched);
  const positive = ({ value, error }: Read): Read => ({ value: Math.abs(value), error });
  const [range, height] = [along(at.x), positive(along(picture.firstBottom))];
  const dark = shadow && along(shadow.x);
  if (dark && dark.value < 0 !== range.value < 0) return 'side';
  try {
    const { distance, over } = readSideScan({ height, range: positive(range), shadow: dark && positive(dark), shadowLength: null });
    const water = { value: height.value + transducerDepth, error: height.error };
    const sign = range.value < 0 ? -1 : 1;
    return {
      ...none,
      starboard: { value: sign * distance.value, error: distance.error },
      over,
      water,
      depth: over ? { value: water.value - over.value, error: Math.hypot(water.error, over.error) } : water,
    };
  } catch (error) {
    if (error instanceof RangeError && (error.message === 'shadow' || error.message === 'range')) return error.message;
    throw error;
  }
}
