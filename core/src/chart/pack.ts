import { packParts, unpackParts } from '../formats/binary';
import { Raster } from '../geo';
import { CELL_COLUMNS, type CellTable } from './cells';
import type { Chart } from './build';

const NO_DEPTH = -32768;
const NO_HARDNESS = 255;

interface Header {
  epsg: number;
  soundings: number;
  deepest: number;
  frame: [x0: number, y0: number, size: number, width: number, height: number];
}

/** The chart as one binary: depth as int16 centimetres, hardness as uint8, then the cells' columns. */
export function packChart({ epsg, soundings, deepest, depth, hardness, cells }: Chart): Uint8Array {
  const header: Header = { epsg, soundings, deepest, frame: [depth.x0, depth.y0, depth.size, depth.width, depth.height] };
  return packParts(header, {
    depth: Int16Array.from(depth.data, (v) => (Number.isNaN(v) ? NO_DEPTH : Math.min(32767, Math.round(v * 100)))),
    hardness: Uint8Array.from(hardness.data, (v) => (Number.isNaN(v) ? NO_HARDNESS : Math.round(Math.min(1, Math.max(0, v)) * 254))),
    column: cells.column,
    row: cells.row,
    ...Object.fromEntries(CELL_COLUMNS.map((name) => [`cell ${name}`, cells[name]])),
    fetch: cells.fetch,
  });
}

/** Reads what packChart wrote. @throws RangeError when it is not a packed chart */
export function unpackChart(bytes: Uint8Array): Chart {
  const { header, parts } = unpackParts<Header>(bytes);
  const raster = (data: Float32Array): Raster => new Raster(...header.frame, data);
  const columns = Object.fromEntries(CELL_COLUMNS.map((name) => [name, parts[`cell ${name}`]])) as Pick<
    CellTable,
    (typeof CELL_COLUMNS)[number]
  >;
  return {
    epsg: header.epsg,
    soundings: header.soundings,
    deepest: header.deepest,
    depth: raster(Float32Array.from(parts.depth, (v) => (v === NO_DEPTH ? NaN : v / 100))),
    hardness: raster(Float32Array.from(parts.hardness, (v) => (v === NO_HARDNESS ? NaN : v / 254))),
    cells: {
      count: parts.column.length,
      column: parts.column as Int32Array,
      row: parts.row as Int32Array,
      ...columns,
      fetch: parts.fetch as Float32Array,
    },
  };
}
