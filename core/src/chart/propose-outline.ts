import { contours } from 'd3-contour';
import type { Point, Rings } from '../geo';

/**
 * An outline for soundings that came without one: the water within about `reach` metres of a sounding.
 * It is a proposal (its edge is no shore), kept until somebody gives the real one.
 */
export function proposeOutline(x: ArrayLike<number>, y: ArrayLike<number>, reach = 50): Rings {
  const cell = reach / 2;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < x.length; i++) {
    x0 = Math.min(x0, x[i]);
    x1 = Math.max(x1, x[i]);
    y0 = Math.min(y0, y[i]);
    y1 = Math.max(y1, y[i]);
  }
  x0 -= 3 * reach;
  y0 -= 3 * reach;
  const width = Math.ceil((x1 + 3 * reach - x0) / cell);
  const height = Math.ceil((y1 + 3 * reach - y0) / cell);
  if (width * height > 4e7) throw new RangeError('the soundings lie too far apart to be one water; give an outline');
  const near = new Float32Array(width * height);
  for (let k = 0; k < x.length; k++) {
    const [ci, cj] = [Math.floor((x[k] - x0) / cell), Math.floor((y[k] - y0) / cell)];
    for (let dj = -2; dj <= 2; dj++) for (let di = -2; di <= 2; di++) if (di * di + dj * dj <= 5) near[(cj + dj) * width + ci + di] = 1;
  }
  const shapes = contours().size([width, height]).thresholds([0.5])(Array.from(near));
  const rings: Rings = [];
  for (const polygon of shapes[0].coordinates)
    for (const ring of polygon) {
      const points = ring.slice(0, -1).map(([px, py]): Point => [x0 + px * cell, y0 + py * cell]);
      // Gaps between survey lines are water; only a large one is an island.
      const hole = ring !== polygon[0];
      if (points.length >= 4 && !(hole && points.length < 40)) rings.push(points);
    }
  return rings;
}
