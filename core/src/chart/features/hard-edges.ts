import { lineLength, type Point } from '../../geo';
import { contours } from 'd3-contour';
import { valueAt, knownAt, type Field } from './field';
import { resample } from './lines';
import { confidenceOf, type ChartFeature } from './types';

/** The least contrast across an edge, over 40 m, and the least length that is named, m. */
const LEAST_CONTRAST = 0.18;
const LEAST_LENGTH = 50;

/** Edges where hard bottom meets soft: stretches of the line half-way between, where hardness changes quickly. */
export function findHardEdges(hardness: Field, blurred: Field, depth: Field): ChartFeature[] {
  const values: number[] = [];
  for (let k = 0; k < hardness.data.length; k += 7) if (hardness.known[k]) values.push(hardness.data[k]);
  if (values.length < 20) return [];
  values.sort((a, b) => a - b);
  // Hardness is relative: half-way lies between this water's own soft and hard.
  const level = (values[Math.floor(values.length * 0.05)] + values[Math.floor(values.length * 0.97)]) / 2;
  const shape = contours().size([blurred.width, blurred.height]).thresholds([level])(Array.from(blurred.data))[0];
  const found: ChartFeature[] = [];
  for (const ring of shape.coordinates.flat()) {
    const line = resample(
      ring.map(([x, y]): Point => [blurred.x0 + x * blurred.size, blurred.y0 + y * blurred.size]),
      10,
    );
    const contrast = line.map(([x, y]) => {
      if (!knownAt(hardness, x, y)) return 0;
      const gx = (valueAt(blurred, x + 5, y) - valueAt(blurred, x - 5, y)) / 10;
      const gy = (valueAt(blurred, x, y + 5) - valueAt(blurred, x, y - 5)) / 10;
      const s = Math.hypot(gx, gy) || 1;
      const [dx, dy] = [(gx / s) * 20, (gy / s) * 20];
      return valueAt(blurred, x + dx, y + dy) - valueAt(blurred, x - dx, y - dy);
    });
    for (let from = 0; from < line.length; from++) {
      if (contrast[from] < LEAST_CONTRAST) continue;
      let to = from;
      while (to + 1 < line.length && contrast[to + 1] >= 0.7 * LEAST_CONTRAST) to++;
      const points = line.slice(from, to + 1);
      const length = lineLength(points);
      if (length >= LEAST_LENGTH) {
        const middle = points[points.length >> 1];
        const own = contrast.slice(from, to + 1).sort((a, b) => a - b);
        const rise = own[own.length >> 1];
        found.push({
          kind: 'hard-to-soft edge',
          x: middle[0],
          y: middle[1],
          depth: valueAt(depth, ...middle),
          rise,
          size: length,
          sharpness: rise / 40,
          confidence: confidenceOf(rise, LEAST_CONTRAST, 1),
          edge: { type: 'line', points },
        });
      }
      from = to;
    }
  }
  return found;
}
