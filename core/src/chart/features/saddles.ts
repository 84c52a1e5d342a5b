import type { Point } from '../../geo';
import { centreOf, directionOf, eachCurvature, gradientAt, knownAt, valueAt, type Field } from './field';
import { confidenceOf, type ChartFeature } from './types';

/** How far up and down is followed from a saddle, m. */
const REACH = 100;
/** The least rise to both sides, and the least mean fall to the other two, m (the ground may slope). */
const LEAST_RISE = 0.45;
const LEAST_FALL = 0.25;
/** The least that the lesser of two humps rises out of the saddle between them, m. */
const LEAST_LESSER = 0.1;
/** Two tops this far apart may have a saddle between them, m. */
const APART = [50, 170];

type Found = ChartFeature & { strength: number };

/**
 * Saddles: the low place between two high ones, from which the bottom falls away to the other two sides.
 * Critical points of a blurred bottom with curvatures of opposite sign, and the lowest places between neighbouring
 * humps (on a slope the critical point may be lost), both checked on the bottom itself.
 */
export function findSaddles(field: Field, blurred: Field, sigma: number, humps: ChartFeature[]): ChartFeature[] {
  const found = [...betweenHumps(field, humps), ...criticalPoints(field, blurred, sigma)];
  found.sort((a, b) => b.strength - a.strength);
  const kept: Found[] = [];
  for (const f of found)
    if (kept.every((o) => Math.hypot(o.x - f.x, o.y - f.y) > Math.max(40, 0.6 * Math.min(o.size, f.size)))) kept.push(f);
  return kept.map(({ strength: _, ...feature }) => feature);
}

function criticalPoints(field: Field, blurred: Field, sigma: number): Found[] {
  const found: Found[] = [];
  eachCurvature(blurred, sigma, (k, c, step) => {
    const strength = sigma * sigma * Math.min(c.high, -c.low);
    if (strength < 0.02) return;
    const [gx, gy] = gradientAt(blurred, k, step);
    const [ux, uy] = directionOf(c);
    // Where the gradient vanishes, by one step of Newton's: inside this cell or the next.
    const along = gx * ux + gy * uy;
    const across = -gx * uy + gy * ux;
    if (Math.hypot(along / c.high, across / c.low) > 1.2 * field.size) return;
    const saddle = saddleAt(field, ...centreOf(field, k), ux, uy);
    if (saddle) found.push({ ...saddle, strength });
  });
  return found;
}

/** The lowest places on the straight ways between neighbouring humps. */
function betweenHumps(field: Field, humps: ChartFeature[]): Found[] {
  const found: Found[] = [];
  for (const [n, a] of humps.entries())
    for (const b of humps.slice(n + 1)) {
      const apart = Math.hypot(b.x - a.x, b.y - a.y);
      if (apart < APART[0] || apart > APART[1]) continue;
      const [wx, wy] = [(b.x - a.x) / apart, (b.y - a.y) / apart];
      let [deepest, at] = [-Infinity, 0];
      for (let r = 0; r <= apart; r += field.size) {
        const depth = valueAt(field, a.x + r * wx, a.y + r * wy);
        if (depth > deepest) [deepest, at] = [depth, r];
      }
      const saddle = saddleAt(field, a.x + at * wx, a.y + at * wy, wy, -wx, true);
      if (saddle) found.push({ ...saddle, strength: saddle.rise });
    }
  return found;
}

/**
 * The saddle at a place whose fall goes along u, if there is one: rising across, falling along.
 * @param between two humps that stand on their own: the lesser may rise little out of the saddle where the ground slopes
 */
function saddleAt(field: Field, x: number, y: number, ux: number, uy: number, between = false): ChartFeature | null {
  const up = climb(field, x, y, -uy, ux, -1);
  const down = climb(field, x, y, ux, uy, 1);
  // A height that still rises at the end of the reach is a slope, and no shoulder of a saddle.
  if (!up || !down || up.open) return null;
  const rise = between ? up.mean : up.gain;
  if (rise < Math.max(LEAST_RISE, 0.0045 * up.apart) || up.gain < LEAST_LESSER) return null;
  if (down.gain < LEAST_FALL / 3 || down.mean < LEAST_FALL) return null;
  return {
    kind: 'saddle',
    x,
    y,
    depth: valueAt(field, x, y),
    rise,
    size: up.apart,
    sharpness: rise / (up.apart / 2),
    confidence: confidenceOf(Math.min(rise / LEAST_RISE, down.mean / LEAST_FALL), 1, 1),
    edge: { type: 'line', points: [up.from, [x, y], up.to] },
  };
}

/** How far the bottom rises (−1) or falls (1) to both sides of a place; the lesser of the two counts. */
function climb(
  field: Field,
  x: number,
  y: number,
  ux: number,
  uy: number,
  sign: 1 | -1,
): { gain: number; mean: number; apart: number; open: boolean; from: Point; to: Point } | null {
  const here = valueAt(field, x, y);
  const ends = [1, -1].map((side) => {
    let [gain, at] = [0, 0];
    for (let r = field.size; r <= REACH; r += field.size) {
      const [px, py] = [x + side * r * ux, y + side * r * uy];
      if (!knownAt(field, px, py)) break;
      const g = sign * (valueAt(field, px, py) - here);
      // Once it clearly turns back, what lies beyond belongs to something else.
      if (g < gain - 0.4) break;
      if (g > gain) [gain, at] = [g, r];
    }
    return { gain, at, point: [x + side * at * ux, y + side * at * uy] as Point };
  });
  if (ends[0].at === 0 || ends[1].at === 0) return null;
  return {
    gain: Math.min(ends[0].gain, ends[1].gain),
    mean: (ends[0].gain + ends[1].gain) / 2,
    apart: ends[0].at + ends[1].at,
    open: ends.some((e) => e.at > REACH - 2 * field.size),
    from: ends[0].point,
    to: ends[1].point,
  };
}
