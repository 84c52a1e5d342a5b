import { packParts, unpackParts } from '../formats/binary';
import { Raster, type Point } from '../geo';
import { CELL_COLUMNS, type CellTable } from './cells';
import type { Chart } from './build';
import type { CleanStep } from './clean';
import type { ChartFeature } from './features';

const NO_DEPTH = -32768;
const NO_HARDNESS = 255;
/** Expected error travels in steps of 5 cm. */
const ERROR_STEP = 0.05;

interface Header {
  epsg: number;
  soundings: number;
  deepest: number;
  /** Missing in charts of before ground above the datum was kept. */
  highest?: number;
  frame: [x0: number, y0: number, size: number, width: number, height: number];
  features: ChartFeature[];
  cleaning: CleanStep[];
}

/** The chart as one binary: depth as int16 centimetres, hardness and expected error as uint8, then the cells' columns. */
export function packChart({ epsg, soundings, deepest, highest, depth, hardness, quality, cells, features, cleaning }: Chart): Uint8Array {
  const header: Header = {
    epsg,
    soundings,
    deepest,
    highest,
    frame: [depth.x0, depth.y0, depth.size, depth.width, depth.height],
    features: features.map(rounded),
    cleaning,
  };
  return packParts(header, {
    depth: Int16Array.from(depth.data, (v) => (Number.isNaN(v) ? NO_DEPTH : Math.min(32767, Math.round(v * 100)))),
    hardness: Uint8Array.from(hardness.data, (v) => (Number.isNaN(v) ? NO_HARDNESS : Math.round(Math.min(1, Math.max(0, v)) * 254))),
    quality: Uint8Array.from(quality.data, (v) => (Number.isNaN(v) ? NO_HARDNESS : Math.min(254, Math.round(v / ERROR_STEP)))),
    column: cells.column,
    row: cells.row,
    ...Object.fromEntries(CELL_COLUMNS.map((name) => [`cell ${name}`, cells[name]])),
    fetch: cells.fetch,
  });
}

/** Numbers as they were, NaN where there is none. A loop: `from` with a function takes ten times as long. */
function scaled(packed: ArrayLike<number>, none: number, times: number, per: number): Float32Array {
  const out = new Float32Array(packed.length);
  for (let i = 0; i < out.length; i++) out[i] = packed[i] === none ? NaN : (packed[i] * times) / per;
  return out;
}

/** Reads what packChart wrote. @throws RangeError when it is not a packed chart */
export function unpackChart(bytes: Uint8Array): Chart {
  const { header, parts } = unpackParts<Header>(bytes);
  const raster = (data: Float32Array): Raster => new Raster(...header.frame, data);
  const none = new Float32Array(parts.column.length);
  const columns = Object.fromEntries(CELL_COLUMNS.map((name) => [name, parts[`cell ${name}`] ?? none])) as Pick<
    CellTable,
    (typeof CELL_COLUMNS)[number]
  >;
  // What few views need is worked out when one does.
  const later = (packed: ArrayLike<number>, times: number, per: number): (() => Raster) => {
    let made: Raster | null = null;
    return () => (made ??= raster(scaled(packed, NO_HARDNESS, times, per)));
  };
  const hardness = later(parts.hardness, 1, 254);
  const quality = later(parts.quality, ERROR_STEP, 1);
  return {
    epsg: header.epsg,
    soundings: header.soundings,
    deepest: header.deepest,
    highest: header.highest ?? 0,
    depth: raster(scaled(parts.depth, NO_DEPTH, 1, 100)),
    get hardness() {
      return hardness();
    },
    get quality() {
      return quality();
    },
    features: header.features,
    cleaning: header.cleaning,
    cells: {
      count: parts.column.length,
      column: parts.column as Int32Array,
      row: parts.row as Int32Array,
      ...columns,
      fetch: parts.fetch as Float32Array,
    },
  };
}

/** Features to the decimetre: what lies below that is noise, and travels for nothing. */
function rounded(f: ChartFeature): ChartFeature {
  const metres = (v: number): number => Math.round(v * 10) / 10;
  const points = (list: Point[]): Point[] => list.map(([x, y]) => [metres(x), metres(y)]);
  const fine = (v: number): number => Math.round(v * 1000) / 1000;
  return {
    ...f,
    x: metres(f.x),
    y: metres(f.y),
    depth: fine(f.depth),
    rise: fine(f.rise),
    size: metres(f.size),
    sharpness: fine(f.sharpness),
    confidence: fine(f.confidence),
    edge: f.edge.type === 'area' ? { type: 'area', ring: points(f.edge.ring) } : { type: 'line', points: points(f.edge.points) },
  };
}
