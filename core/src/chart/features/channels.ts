import { lineLength, type Point } from '../../geo';
import { centreOf, directionOf, eachCurvature, knownAt, valueAt, type Field } from './field';
import { joinLines, resample } from './lines';
import { confidenceOf, type ChartFeature } from './types';

const LEAST_DEPTH = 0.7;
const LEAST_LENGTH = 150;
const LEAST_TURN = 35;

/** Depth of a trough below its shoulders, m: the lesser side counts. */
function belowShoulders(field: Field, x: number, y: number, ux: number, uy: number, reach: number): { below: number; wide: number } {
  const here = valueAt(field, x, y);
  const sides = [1, -1].map((side) => {
    let [rise, at] = [0, 0];
    for (let r = field.size; r <= reach; r += field.size) {
      const [px, py] = [x + side * r * ux, y + side * r * uy];
      if (!knownAt(field, px, py)) break;
      const up = here - valueAt(field, px, py);
      if (up > rise) [rise, at] = [up, r];
    }
    return { rise, at };
  });
  return { below: Math.min(sides[0].rise, sides[1].rise), wide: sides[0].at + sides[1].at };
}

/**
 * Channels and their swings: lines along which the bottom is deeper than to both sides, and the places where they
 * turn. Ridge lines of the blurred depth with hysteresis. Source of the idea: Steger 1998.
 */
export function findChannels(field: Field, blurred: Field, sigma: number): ChartFeature[] {
  const { size } = field;
  const marks = new Uint8Array(field.known.length);
  eachCurvature(blurred, sigma, (k, c) => {
    const strength = -c.low * sigma * sigma;
    // Deeper than both sides, and much less curved along than across.
    if (strength < 0.12 || c.high > -0.5 * c.low || c.high < 0.5 * c.low) return;
    const [hx, hy] = directionOf(c);
    const [ux, uy] = [-hy, hx];
    const [x, y] = centreOf(field, k);
    const here = blurred.data[k];
    if (valueAt(blurred, x + ux * size, y + uy * size) > here || valueAt(blurred, x - ux * size, y - uy * size) > here) return;
    const { below } = belowShoulders(field, x, y, ux, uy, 4 * sigma);
    if (below >= LEAST_DEPTH) marks[k] = 2;
    else if (below >= 0.5 * LEAST_DEPTH) marks[k] = 1;
  });
  return joinLines(field, marks, LEAST_LENGTH).flatMap((points) => {
    const line = resample(points, 10);
    const measures = line.map(([x, y], i) => {
      const [a, b] = [line[Math.max(0, i - 1)], line[Math.min(line.length - 1, i + 1)]];
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      return belowShoulders(field, x, y, -(b[1] - a[1]) / length, (b[0] - a[0]) / length, 4 * sigma);
    });
    const middleOf = (values: number[]): number => values.sort((p, q) => p - q)[values.length >> 1];
    const below = middleOf(measures.map((m) => m.below));
    const wide = middleOf(measures.map((m) => m.wide));
    if (below < LEAST_DEPTH) return [];
    const middle = line[line.length >> 1];
    const channel: ChartFeature = {
      kind: 'channel',
      x: middle[0],
      y: middle[1],
      depth: valueAt(field, ...middle),
      rise: below,
      size: lineLength(points),
      sharpness: below / Math.max(1, wide / 2),
      confidence: confidenceOf(below, LEAST_DEPTH, 1),
      edge: { type: 'line', points: line },
    };
    return [channel, ...swings(field, line, below, wide)];
  });
}

/** Places where a channel turns by 35° and more within about twice its width. */
function swings(field: Field, line: Point[], below: number, wide: number): ChartFeature[] {
  const arm = Math.max(5, Math.min(9, Math.round(wide / 10)));
  const turn = line.map((p, i) => {
    if (i < arm || i >= line.length - arm) return 0;
    const [a, b] = [line[i - arm], line[i + arm]];
    const before = Math.atan2(p[1] - a[1], p[0] - a[0]);
    const after = Math.atan2(b[1] - p[1], b[0] - p[0]);
    return (Math.abs(Math.atan2(Math.sin(after - before), Math.cos(after - before))) * 180) / Math.PI;
  });
  const found: ChartFeature[] = [];
  turn.forEach((t, i) => {
    // At the ends of the line a bend is only half seen: its height is not its height.
    if (i <= arm || i >= line.length - arm - 1) return;
    if (t < LEAST_TURN || turn.slice(Math.max(0, i - arm), i + arm + 1).some((o, n) => o > t || (o === t && n < Math.min(arm, i)))) return;
    found.push({
      kind: 'channel swing',
      x: line[i][0],
      y: line[i][1],
      depth: valueAt(field, ...line[i]),
      rise: below,
      size: 2 * arm * 10,
      sharpness: t / (2 * arm * 10),
      confidence: confidenceOf(t, LEAST_TURN, Math.min(1, below / LEAST_DEPTH)),
      edge: { type: 'line', points: line.slice(i - arm, i + arm + 1) },
    });
  });
  return found;
}
