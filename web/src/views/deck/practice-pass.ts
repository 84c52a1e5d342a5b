import type { Chart } from '@restless-shoal/core/chart';
import { cellCentre, cellOf, metricPlane, type LatLon } from '@restless-shoal/core/geo';

/** An S-pass to practise on, as the simulated boat is told it. */
export interface PracticePass extends LatLon {
  course: number;
  length: number;
  spacing: number;
}

/** Half of the piece of water that is searched, m, and the least depth at its corners. */
const REACH = 60;
const AFLOAT = 1;

/** Over the highest hump of a chart that has water enough round it, else about where its water lies farthest from the shore; null where there is none. */
export function practicePass(chart: Chart): PracticePass | null {
  const { cells } = chart;
  const shore = new Map<string, number>();
  let widest = -1;
  for (let i = 0; i < cells.count; i++) {
    if (Number.isNaN(cells.depth[i])) continue;
    shore.set(`${cells.column[i]} ${cells.row[i]}`, cells.shoreDistance[i]);
    if (widest < 0 || cells.shoreDistance[i] > cells.shoreDistance[widest]) widest = i;
  }
  if (widest < 0) return null;
  const room = (x: number, y: number): number => shore.get(cellOf(x, y).join(' ')) ?? 0;
  const afloat = (x: number, y: number): boolean =>
    [-REACH, REACH].every((dx) => [-REACH, REACH].every((dy) => chart.depth.at(x + dx, y + dy) > AFLOAT));
  const hump = chart.features
    .filter((f) => (f.kind === 'hump' || f.kind === 'reef' || f.kind === 'bank') && room(f.x, f.y) > REACH * Math.SQRT2 && afloat(f.x, f.y))
    .sort((a, b) => b.rise - a.rise)[0] as { x: number; y: number } | undefined;
  const [x, y] = hump ? [hump.x, hump.y] : cellCentre(cells.column[widest], cells.row[widest]);
  const reach = Math.min(REACH, Math.max(12, room(x, y) / Math.SQRT2));
  // From the north-western corner.
  return { ...metricPlane(chart.epsg).toLatLon([x - reach, y + reach]), course: 90, length: 2 * reach, spacing: 12 };
}
