import { lineLength, type Point } from '../../geo';
import { centreOf, gradientAt, knownAt, valueAt, type Field } from './field';
import { joinLines, resample } from './lines';
import { confidenceOf, type ChartFeature } from './types';

const LEAST_DROP = 0.8;
const LEAST_LENGTH = 80;
/** How far to either side the ground is looked at, m. */
const SIDE = 45;
/** And how far the bottom must not have come back, m: the floor of a channel is narrower. */
const BEYOND = 85;

/**
 * Ledges and drop-offs: lines where the bottom breaks from one level to another, with flatter ground on both sides.
 * The flank of a hump and the wall of a channel are none: there the bottom comes back.
 * Lines of greatest slope across the slope, with hysteresis. Source of the idea: Canny 1986.
 */
export function findLedges(field: Field, blurred: Field): ChartFeature[] {
  const { width, height, size, known } = field;
  const marks = new Uint8Array(known.length);
  const slope = new Float32Array(known.length);
  for (let j = 1; j < height - 1; j++)
    for (let i = 1; i < width - 1; i++) {
      const k = j * width + i;
      if (known[k]) slope[k] = Math.hypot(...gradientAt(blurred, k, 1));
    }
  const slopes: Field = { ...field, data: slope };
  for (let j = 1; j < height - 1; j++)
    for (let i = 1; i < width - 1; i++) {
      const k = j * width + i;
      const s = slope[k];
      if (s < 0.035) continue;
      const [gx, gy] = gradientAt(blurred, k, 1);
      const [ux, uy] = [gx / s, gy / s];
      const [x, y] = centreOf(field, k);
      if (valueAt(slopes, x + ux * size, y + uy * size) > s || valueAt(slopes, x - ux * size, y - uy * size) > s) continue;
      const drop = dropAt(field, slopes, x, y, ux, uy, s);
      if (drop >= LEAST_DROP) marks[k] = 2;
      else if (drop >= 0.6 * LEAST_DROP) marks[k] = 1;
    }
  return joinLines(field, marks, LEAST_LENGTH).map((points): ChartFeature => {
    const line = resample(points, Math.max(size, 8));
    const middle = line[line.length >> 1];
    const drops: number[] = [];
    let sharpness = 0;
    for (const [x, y] of line) {
      const k = cellAt(field, x, y);
      const [gx, gy] = gradientAt(blurred, k, 1);
      const s = Math.hypot(gx, gy) || 1;
      drops.push(dropAt(field, slopes, x, y, gx / s, gy / s, s));
      sharpness = Math.max(sharpness, s);
    }
    drops.sort((a, b) => a - b);
    const drop = drops[drops.length >> 1];
    return {
      kind: 'ledge',
      x: middle[0],
      y: middle[1],
      depth: valueAt(field, ...middle),
      rise: drop,
      size: lineLength(points),
      sharpness,
      confidence: confidenceOf(drop, LEAST_DROP, 1),
      edge: { type: 'line', points: line },
    };
  });
}

const cellAt = ({ x0, y0, size, width, height }: Field, x: number, y: number): number =>
  Math.max(1, Math.min(height - 2, Math.floor((y - y0) / size))) * width + Math.max(1, Math.min(width - 2, Math.floor((x - x0) / size)));

/** Drop between the two levels a break separates, m; 0 when it separates none. */
function dropAt(field: Field, slopes: Field, x: number, y: number, ux: number, uy: number, steepest: number): number {
  const at = (r: number): Point => [x + ux * r, y + uy * r];
  // Both sides are looked at as far as the water goes.
  const ends = [1, -1].map((side) => {
    let foot = 0;
    for (let r = field.size; r <= SIDE; r += field.size) {
      const p = at(side * r);
      if (!knownAt(field, ...p)) return null;
      if (foot === 0 && valueAt(slopes, ...p) < 0.5 * steepest) foot = r;
    }
    if (foot === 0) return null;
    const far = valueAt(field, ...at(side * SIDE));
    const beyond = at(side * BEYOND);
    return { foot: valueAt(field, ...at(side * foot)), far, beyond: knownAt(field, ...beyond) ? valueAt(field, ...beyond) : far };
  });
  const [below, above] = ends;
  if (!below || !above) return 0;
  const drop = below.foot - above.foot;
  // What rises again below, or falls again above, is a channel's wall or a hump's flank.
  const holds =
    below.far - above.far > 0.75 * drop &&
    below.far - below.foot > -0.3 * drop &&
    above.foot - above.far > -0.3 * drop &&
    below.beyond - below.foot > -0.5 * drop &&
    above.foot - above.beyond > -0.5 * drop;
  return holds ? drop : 0;
}
