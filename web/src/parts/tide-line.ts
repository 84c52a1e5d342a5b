import type { Tide } from '@restless-shoal/core/tide';

const STEP = 10 * 60_000;

/** The height of a tide through some hours as a line in a box. */
export interface TideLine {
  /** Of an SVG path, broken where nothing is said of the tide. */
  path: string;
  /** Where a moment (ms) and a height (m over the datum) lie in the box. */
  x: (at: number) => number;
  y: (height: number) => number;
}

/** @param from ms @param to ms @param edge room above and below the line @returns null where nothing is said of these hours */
export function tideLine(tide: Tide, from: number, to: number, width: number, height: number, edge: number): TideLine | null {
  const points: { at: number; height: number }[] = [];
  for (let at = from; at <= to; at += STEP) points.push({ at, height: tide.height(at) });
  const curve = points.filter((p) => !Number.isNaN(p.height));
  if (!curve.length) return null;
  const heights = curve.map((p) => p.height);
  const [low, high] = [Math.min(0, ...heights), Math.max(...heights)];
  const x = (at: number): number => ((at - from) / (to - from)) * width;
  const y = (h: number): number => height - edge - ((h - low) / Math.max(0.1, high - low)) * (height - 2 * edge);
  const path = curve
    .map((p, i) => `${i > 0 && p.at - curve[i - 1].at <= STEP ? 'L' : 'M'}${x(p.at).toFixed(1)} ${y(p.height).toFixed(1)}`)
    .join(' ');
  return { path, x, y };
}
