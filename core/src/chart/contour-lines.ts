import { contours } from 'd3-contour';
import type { Point, Raster } from '../geo';

export interface ContourLine {
  depth: number;
  points: Point[];
}

/** Sensible contour depths for a water: about ten steps of 0.5, 1, 2, 5, 10 … m. */
export function contourDepths(deepest: number): number[] {
  const step = [0.5, 1, 2, 5, 10, 20, 50].find((s) => deepest / s <= 12) ?? 100;
  return Array.from({ length: Math.max(0, Math.ceil(deepest / step) - 1) }, (_, i) => (i + 1) * step);
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
