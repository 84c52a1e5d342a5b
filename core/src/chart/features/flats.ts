import { contours } from 'd3-contour';
import type { Point } from '../../geo';
import { gradientAt, ringArea, type Field } from './field';
import { confidenceOf, type ChartFeature } from './types';

const MOST_SLOPE = 0.015;
/** The least area that is called a flat, m². */
const LEAST_AREA = 10_000;

/** Flats: ground that falls by less than 1.5 cm a metre over a hectare and more. Large ones first. */
export function findFlats(field: Field, blurred: Field, most = 30): ChartFeature[] {
  // On cells of some 15 m: a flat has no fine edge.
  const step = Math.max(1, Math.round(15 / field.size));
  const width = Math.floor(field.width / step);
  const height = Math.floor(field.height / step);
  const flat = new Array<number>(width * height).fill(0);
  const cell = step * field.size;
  for (let j = 1; j < height - 1; j++)
    for (let i = 1; i < width - 1; i++) {
      const k = (j * step + (step >> 1)) * field.width + i * step + (step >> 1);
      if (field.known[k] && Math.hypot(...gradientAt(blurred, k, step)) < MOST_SLOPE) flat[j * width + i] = 1;
    }
  const shapes = contours().size([width, height]).thresholds([0.5])(flat)[0].coordinates;
  return shapes
    .map((polygon) => {
      const ring = polygon[0].slice(0, -1).map(([x, y]): Point => [field.x0 + x * cell, field.y0 + y * cell]);
      return { ring, area: polygon.reduce((sum, r, n) => sum + (n ? -1 : 1) * ringArea(r), 0) * cell * cell };
    })
    .filter((f) => f.area >= LEAST_AREA)
    .sort((a, b) => b.area - a.area)
    .slice(0, most)
    .flatMap(({ ring, area }): ChartFeature[] => {
      let [sum, n, deepest, shallowest] = [0, 0, -Infinity, Infinity];
      const [x, y] = inner(ring, flat, width, field, cell);
      for (const [px, py] of ring) {
        const k = Math.floor((py - field.y0) / field.size) * field.width + Math.floor((px - field.x0) / field.size);
        const d = field.data[k];
        if (!(d > 0)) continue;
        sum += d;
        n++;
        deepest = Math.max(deepest, d);
        shallowest = Math.min(shallowest, d);
      }
      if (!n) return [];
      const k = Math.floor((y - field.y0) / field.size) * field.width + Math.floor((x - field.x0) / field.size);
      return [
        {
          kind: 'flat',
          x,
          y,
          depth: field.data[k] > 0 ? field.data[k] : sum / n,
          rise: deepest - shallowest,
          size: Math.sqrt((4 * area) / Math.PI),
          sharpness: MOST_SLOPE,
          confidence: confidenceOf(area, LEAST_AREA, 1),
          edge: { type: 'area', ring },
        },
      ];
    });
}

/** A place on the flat itself, nearest to the middle of its edge. */
function inner(ring: Point[], flat: number[], width: number, field: Field, cell: number): Point {
  const cx = ring.reduce((s, p) => s + p[0], 0) / ring.length;
  const cy = ring.reduce((s, p) => s + p[1], 0) / ring.length;
  const [ci, cj] = [Math.floor((cx - field.x0) / cell), Math.floor((cy - field.y0) / cell)];
  for (let r = 0; r < 60; r++)
    for (let dj = -r; dj <= r; dj++)
      for (let di = -r; di <= r; di += Math.abs(dj) === r ? 1 : Math.max(1, 2 * r))
        if (flat[(cj + dj) * width + ci + di] === 1) return [field.x0 + (ci + di + 0.5) * cell, field.y0 + (cj + dj + 0.5) * cell];
  return ring[0];
}
