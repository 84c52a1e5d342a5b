import type { Read } from './side-scan-reading';

/** A mark on the scale of a picture: where it stands along the axis, px, and what it says, m. */
export interface ScaleMark {
  at: number;
  value: number;
}

/** Metres along one axis of a picture. */
export interface PictureScale {
  /** What stands at the edge that px are counted from, m. */
  origin: number;
  /** m a pixel; negative where values fall along the axis. */
  perPixel: number;
}

/** Why two marks are no scale. */
export type ScaleTrouble = 'too-near' | 'same-value';

/** Marks nearer than this say nothing, px. */
const NEAREST = 20;
/** How exactly somebody touches, px on the screen. */
export const TOUCHED_TO = 1.5;

/** The scale through two known marks. */
export function scaleOf(a: ScaleMark, b: ScaleMark): PictureScale | ScaleTrouble {
  if (Math.abs(a.at - b.at) < NEAREST) return 'too-near';
  if (a.value === b.value) return 'same-value';
  const perPixel = (b.value - a.value) / (b.at - a.at);
  return { origin: a.value - perPixel * a.at, perPixel };
}

/**
 * What a touch stands for, m, with the error that touching gives it: of the touch, and of the two marks, which weighs more the farther
 * the touch lies outside them.
 * @param at px along the axis @param marks that the scale goes through @param touched how exactly each was touched, px of the picture
 */
export function readAlong(at: number, marks: readonly [ScaleMark, ScaleMark], touched: number): Read {
  const scale = scaleOf(...marks);
  if (typeof scale === 'string') throw new RangeError(scale);
  const share = (at - marks[0].at) / (marks[1].at - marks[0].at);
  return {
    value: scale.origin + scale.perPixel * at,
    error: Math.abs(scale.perPixel) * touched * Math.hypot(1, share, 1 - share),
  };
}
