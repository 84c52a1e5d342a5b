import type { Chart } from './build';
import type { CellTable } from './cells';
import { Raster, type Point } from '../geo';

/** Shallower than this a cell counts as fallen dry, m. */
const DRY = 0.05;

/** Mean depth of the water in a cell of a chart at a level of the water, m above its datum; below 0 where ground lies dry. */
export const depthAtLevel = (cells: CellTable, i: number, level: number): number => cells.depth[i] - cells.drying[i] + level;

/**
 * The cells of a chart at a level of the water, m above its datum: depths are what they are then. What has fallen dry keeps its
 * place in the table, without depth and without area.
 */
export function cellsAtLevel(cells: CellTable, level: number): CellTable {
  if (Math.abs(level) < 0.005 && !cells.drying.some((h) => h > 0)) return cells;
  const then = (i: number): number => depthAtLevel(cells, i, level);
  return {
    ...cells,
    depth: cells.depth.map((_, i) => (then(i) > DRY ? then(i) : NaN)),
    area: cells.area.map((a, i) => (then(i) <= DRY ? 0 : a)),
    drying: new Float32Array(cells.count),
  };
}

/** Depth of the water at a place of a chart at its level, m; null where it is dry or not known. */
export function waterAt(chart: Pick<Chart, 'depth'>, [x, y]: Point): number | null {
  const depth = chart.depth.at(x, y);
  return depth > 0 ? depth : null;
}

const lastAsked = new WeakMap<Chart, { level: number; chart: Chart }>();

/**
 * A chart at a level of the water, m above its datum, to the decimetre: its depths, below 0 where ground lies dry, and the depths of its shapes.
 * The last one asked for is kept with the chart.
 */
export function chartAtLevel(chart: Chart, asked: number): Chart {
  const level = Math.round(asked * 10) / 10;
  if (level === 0 && chart.highest <= 0) return chart;
  let kept = lastAsked.get(chart);
  if (kept?.level !== level) lastAsked.set(chart, (kept = { level, chart: moved(chart, level) }));
  return kept.chart;
}

function moved(chart: Chart, level: number): Chart {
  const { x0, y0, size, width, height, data } = chart.depth;
  return {
    ...chart,
    depth: new Raster(
      x0,
      y0,
      size,
      width,
      height,
      data.map((d) => d + level),
    ),
    cells: cellsAtLevel(chart.cells, level),
    features: chart.features.flatMap((f) => (f.depth + level <= 0 ? [] : [{ ...f, depth: f.depth + level }])),
    deepest: Math.max(0.1, chart.deepest + level),
    highest: chart.highest - level,
  };
}
