import type { Point } from '../../geo';
import { centreOf, gradientAt, knownAt, valueAt, type Field } from './field';
import { confidenceOf, type ChartFeature } from './types';

/** Half the chord over which a contour's bulge is measured, m, and the least bulge that is named. */
const CHORD = 70;
const LEAST_BULGE = 18;

/** The contour through a place, followed to either side for a length. */
function alongContour(field: Field, x: number, y: number, side: 1 | -1, length: number): Point | null {
  const depth = valueAt(field, x, y);
  const step = field.size;
  for (let r = 0; r < length; r += step) {
    const e = field.size;
    const gx = (valueAt(field, x + e, y) - valueAt(field, x - e, y)) / (2 * e);
    const gy = (valueAt(field, x, y + e) - valueAt(field, x, y - e)) / (2 * e);
    const s2 = gx * gx + gy * gy;
    if (s2 < 1e-6) return null;
    const s = Math.sqrt(s2);
    x += (-gy / s) * side * step;
    y += (gx / s) * side * step;
    // Back on to the contour.
    const off = valueAt(field, x, y) - depth;
    const back = Math.max(-step, Math.min(step, -off / s));
    x += (gx / s) * back;
    y += (gy / s) * back;
    if (!knownAt(field, x, y)) return null;
  }
  return [x, y];
}

/**
 * Points and inside turns: where a contour bulges towards deep water, or draws back towards the shore. Candidates are
 * where plan curvature is greatest; the bulge is then measured on the contour itself, over a chord of about 140 m.
 */
export function findNoses(field: Field, blurred: Field): ChartFeature[] {
  const { width, height, known, size } = field;
  const step = Math.max(1, Math.round(12 / size));
  const plan = new Float32Array(known.length);
  for (let j = step; j < height - step; j++)
    for (let i = step; i < width - step; i++) {
      const k = j * width + i;
      if (!known[k]) continue;
      const [gx, gy] = gradientAt(blurred, k, step);
      const s2 = gx * gx + gy * gy;
      // On flat ground contours wander: nothing is named there.
      if (s2 < 0.012 * 0.012) continue;
      const d = blurred.data;
      const h2 = (step * size) ** 2;
      const xx = (d[k + step] - 2 * d[k] + d[k - step]) / h2;
      const yy = (d[k + step * width] - 2 * d[k] + d[k - step * width]) / h2;
      const up = step * width;
      const xy = (d[k + step + up] - d[k - step + up] - d[k + step - up] + d[k - step - up]) / (4 * h2);
      plan[k] = (xx * gy * gy - 2 * xy * gx * gy + yy * gx * gx) / s2 ** 1.5;
    }
  const found: ChartFeature[] = [];
  const reach = Math.max(1, Math.round(30 / size));
  const least = (2 * LEAST_BULGE) / CHORD ** 2;
  for (let j = reach; j < height - reach; j++)
    for (let i = reach; i < width - reach; i++) {
      const k = j * width + i;
      const v = Math.abs(plan[k]);
      if (v < least || !peak(plan, k, width, reach)) continue;
      const [x, y] = centreOf(field, k);
      const ends = [alongContour(blurred, x, y, 1, CHORD), alongContour(blurred, x, y, -1, CHORD)];
      if (!ends[0] || !ends[1]) continue;
      const [a, b] = ends as [Point, Point];
      const chord = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      const [gx, gy] = gradientAt(blurred, k, step);
      const s = Math.hypot(gx, gy);
      // Towards the deep is positive.
      const bulge = ((x - (a[0] + b[0]) / 2) * gx + (y - (a[1] + b[1]) / 2) * gy) / s;
      // A contour that closes on itself is a hump's or a hole's.
      if (Math.abs(bulge) < LEAST_BULGE || chord < 40) continue;
      found.push({
        kind: bulge > 0 ? 'point' : 'inside turn',
        x,
        y,
        depth: valueAt(field, x, y),
        rise: Math.abs(bulge) * s,
        size: chord,
        sharpness: s,
        confidence: confidenceOf(Math.abs(bulge), LEAST_BULGE, 1),
        edge: { type: 'line', points: [a, [x, y], b] },
      });
    }
  found.sort((p, q) => q.confidence - p.confidence);
  const kept: ChartFeature[] = [];
  for (const f of found) if (kept.every((o) => o.kind !== f.kind || Math.hypot(o.x - f.x, o.y - f.y) > 90)) kept.push(f);
  return kept;
}

function peak(plan: Float32Array, k: number, width: number, reach: number): boolean {
  const v = Math.abs(plan[k]);
  for (let dj = -reach; dj <= reach; dj++)
    for (let di = -reach; di <= reach; di++) {
      const o = plan[k + dj * width + di];
      if (Math.abs(o) > v && Math.sign(o) === Math.sign(plan[k])) return false;
    }
  return true;
}
