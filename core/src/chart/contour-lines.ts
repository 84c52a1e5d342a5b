import { contours } from 'd3-contour';
import type { Point, Raster } from '../geo';

export interface ContourLine {
  depth: number;
  points: Point[];
}

/**
 * Sensible contour depths for a water, m: whole steps of the reader's unit (0.5, 1, 2, 5, 10 …).
 * @param unit length of the unit that depths are read in, m @param atMost so many: more for a closer look
 */
export function contourDepths(deepest: number, unit = 1, atMost = 12): number[] {
  const most = deepest / unit;
  const step = [0.5, 1, 2, 5, 10, 20, 50].find((s) => most / s <= atMost) ?? 100;
  return Array.from({ length: Math.max(0, Math.ceil(most / step) - 1) }, (_, i) => (i + 1) * step * unit);
}

/**
 * Contour lines of a depth raster, in metres of its plane. Unknown cells count as shore (0 m), so that lines close;
 * the edge of the water itself is drawn from the outline.
 */
export function contourLines(depth: Raster, depths: number[] = contourDepths(maximum(depth))): ContourLine[] {
  const values = Array.from(depth.data, (v) => (Number.isNaN(v) ? 0 : v));
  return contours()
    .size([depth.width, depth.height])
    .thresholds(depths)(values)
    .flatMap((shape) =>
      shape.coordinates.flat().map((ring) => ({
        depth: shape.value,
        points: ring.map(([x, y]): Point => [depth.x0 + x * depth.size, depth.y0 + y * depth.size]),
      })),
    );
}

function maximum(raster: Raster): number {
  let most = 0;
  for (const v of raster.data) if (v > most) most = v;
  return most;
}
