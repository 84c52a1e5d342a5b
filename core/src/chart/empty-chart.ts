import { Raster, type Point } from '../geo';
import type { Chart } from './build';
import { CELL_COLUMNS, type CellTable } from './cells';

/**
 * The chart of a water of which nothing is known but where it lies: no cell, no depth. What needs no chart (the column,
 * the season, the windows) can be asked for all the same.
 * @param epsg UTM zone of the water @param at a place on it, m in that zone
 */
export function emptyChart(epsg: number, [x, y]: Point): Chart {
  const raster = (): Raster => new Raster(Math.floor(x / 25) * 25, Math.floor(y / 25) * 25, 25, 1, 1);
  const columns = Object.fromEntries(CELL_COLUMNS.map((name) => [name, new Float32Array(0)])) as Pick<
    CellTable,
    (typeof CELL_COLUMNS)[number]
  >;
  return {
    epsg,
    depth: raster(),
    hardness: raster(),
    quality: raster(),
    cells: {
      count: 0,
      column: new Int32Array(0),
      row: new Int32Array(0),
      ...columns,
      fetch: new Float32Array(0),
    },
    features: [],
    cleaning: [],
    soundings: 0,
    deepest: 0,
    highest: 0,
  };
}
