import type { CellTable, Chart, ChartFeature, FeatureKind } from '../chart';
import { CELL, cellKey, insideRings, ringsBounds } from '../geo';
import { indexCells } from '../forecast';

/** What a place is, besides what its cell table says: one entry a cell, NaN or −1 where not known. */
export interface ChartPlaces {
  cells: CellTable;
  /** Depth of the highest bottom in the cell, m. */
  top: Float32Array;
  /** How much the eight cells round it lie deeper, mean, m: positive where the bottom bulges up. */
  curvature: Float32Array;
  /** Kinds found by name on the chart, and which of them a cell lies in or within 40 m of (index in `shapeKinds`). */
  shapeKinds: FeatureKind[];
  shape: Int8Array;
  /** Distances through the water, m, at most `FARTHEST`: to a named shape, to a channel, to deep water. */
  shapeDistance: Float32Array;
  channelDistance: Float32Array;
  deepDistance: Float32Array;
  /** 0 in the open water, up to 1 at the end of an arm. */
  arm: Float32Array;
}

/** Distances are followed so far, m. */
export const FARTHEST = 600;
/** A shape that a place belongs to lies within this, m. */
const AT_SHAPE = 40;

type Neighbours = Int32Array;

/** Indices of the eight cells round each cell, −1 where there is none; the even ones share a side with it. */
function neighboursOf(cells: CellTable): Neighbours {
  const at = indexCells(cells);
  const around = [
    [1, 0],
    [1, 1],
    [0, 1],
    [-1, 1],
    [-1, 0],
    [-1, -1],
    [0, -1],
    [1, -1],
  ];
  const out = new Int32Array(cells.count * 8);
  for (let i = 0; i < cells.count; i++)
    around.forEach(([dc, dr], k) => (out[i * 8 + k] = at.get(cellKey(cells.column[i] + dc, cells.row[i] + dr)) ?? -1));
  return out;
}

/** Distance through the water from the nearest of some cells, m, by steps to the eight neighbours. */
function throughWater(neighbours: Neighbours, count: number, from: Iterable<number>, most = Infinity, within?: Uint8Array): Float32Array {
  const out = new Float32Array(count).fill(Infinity);
  // Steps are of two lengths only: a queue for each keeps what is open in order.
  const open: number[][] = [[], []];
  const heads = [0, 0];
  for (const i of from) {
    out[i] = 0;
    open[0].push(i);
  }
  for (;;) {
    const [a, b] = [open[0][heads[0]], open[1][heads[1]]];
    if (a === undefined && b === undefined) break;
    const lane = b === undefined || (a !== undefined && out[a] <= out[b]) ? 0 : 1;
    const i = open[lane][heads[lane]++];
    for (let k = 0; k < 8; k++) {
      const j = neighbours[i * 8 + k];
      if (j < 0 || (within && !within[j])) continue;
      const d = out[i] + (k % 2 ? Math.SQRT2 * CELL : CELL);
      if (d < out[j] && d <= most) {
        out[j] = d;
        open[k % 2].push(j);
      }
    }
  }
  return out;
}

const atMost = (list: Float32Array, max: number): Float32Array => list.map((v) => Math.min(v, max));

/**
 * How far up an arm each cell lies. An arm is what is left of the water when the parts wider than a disc are taken
 * away (a morphological opening: Serra 1982), at least 150 m long; 0 outside, the distance from its mouth over its
 * length inside.
 */
function armsOf(cells: CellTable, neighbours: Neighbours): Float32Array {
  const n = cells.count;
  const shore: number[] = [];
  for (let i = 0; i < n; i++) for (let k = 0; k < 8; k += 2) if (neighbours[i * 8 + k] < 0) shore.push(i);
  const fromShore = throughWater(neighbours, n, new Set(shore));
  const widest = fromShore.reduce((a, b) => Math.max(a, b), 0);
  const radius = Math.min(250, Math.max(50, 0.4 * widest));
  const core: number[] = [];
  for (let i = 0; i < n; i++) if (fromShore[i] >= radius) core.push(i);
  const arm = new Float32Array(n);
  if (!core.length) return arm;
  const open = throughWater(neighbours, n, core, radius + CELL);
  const body: number[] = [];
  for (let i = 0; i < n; i++) if (open[i] < Infinity) body.push(i);
  const fromMouth = throughWater(neighbours, n, body);
  const done = new Uint8Array(n);
  for (let start = 0; start < n; start++) {
    if (done[start] || !(fromMouth[start] > 0) || fromMouth[start] === Infinity) continue;
    const region = [start];
    done[start] = 1;
    let longest = 0;
    for (const i of region) {
      longest = Math.max(longest, fromMouth[i]);
      for (let k = 0; k < 8; k += 2) {
        const j = neighbours[i * 8 + k];
        if (j >= 0 && !done[j] && fromMouth[j] > 0 && fromMouth[j] < Infinity) {
          done[j] = 1;
          region.push(j);
        }
      }
    }
    if (longest >= 150) for (const i of region) arm[i] = fromMouth[i] / longest;
  }
  return arm;
}

/** Works out what does not change from day to day about each cell of a chart. */
export function chartPlaces({ cells, features, depth }: Chart): ChartPlaces {
  const n = cells.count;
  const at = indexCells(cells);
  const neighbours = neighboursOf(cells);
  const cellAt = (x: number, y: number): number | undefined => at.get(cellKey(Math.floor(x / CELL), Math.floor(y / CELL)));
  const top = Float32Array.from({ length: n }, (_, i) => {
    let least = Infinity;
    const step = Math.max(depth.size, CELL / 5);
    for (let y = cells.row[i] * CELL + step / 2; y < (cells.row[i] + 1) * CELL; y += step)
      for (let x = cells.column[i] * CELL + step / 2; x < (cells.column[i] + 1) * CELL; x += step) {
        const z = depth.at(x, y);
        if (z < least) least = z;
      }
    return Number.isFinite(least) ? least : cells.depth[i];
  });
  const curvature = Float32Array.from({ length: n }, (_, i) => {
    let [sum, count] = [0, 0];
    for (let k = 0; k < 8; k++) {
      const j = neighbours[i * 8 + k];
      if (j >= 0 && !Number.isNaN(cells.depth[j])) {
        sum += cells.depth[j];
        count++;
      }
    }
    return count >= 4 ? sum / count - cells.depth[i] : NaN;
  });
  const shapeKinds = [...new Set(features.map((f) => f.kind))];
  const shape = new Int8Array(n).fill(-1);
  const shapeSeeds = new Set<number>();
  const channelSeeds = new Set<number>();
  // Flats first and the surest last: what stands out names the place.
  const rank = (f: ChartFeature): number => (f.kind === 'flat' ? 0 : 1 + f.confidence);
  for (const f of [...features].sort((a, b) => rank(a) - rank(b))) {
    const kind = shapeKinds.indexOf(f.kind);
    const own = new Set<number>();
    for (const [x, y] of f.edge.type === 'line' ? f.edge.points : [[f.x, f.y] as const]) {
      const i = cellAt(x, y);
      if (i === undefined) continue;
      own.add(i);
      const reach = Math.ceil(AT_SHAPE / CELL);
      for (let dr = -reach; dr <= reach; dr++)
        for (let dc = -reach; dc <= reach; dc++) {
          const j = at.get(cellKey(cells.column[i] + dc, cells.row[i] + dr));
          if (j !== undefined && Math.hypot(dc, dr) * CELL <= AT_SHAPE) shape[j] = kind;
        }
    }
    if (f.edge.type === 'area') {
      const ring = f.edge.ring;
      const [minX, minY, maxX, maxY] = ringsBounds([ring]);
      for (let row = Math.floor(minY / CELL); row <= Math.floor(maxY / CELL); row++)
        for (let column = Math.floor(minX / CELL); column <= Math.floor(maxX / CELL); column++) {
          const j = at.get(cellKey(column, row));
          if (j === undefined || !insideRings([ring], (column + 0.5) * CELL, (row + 0.5) * CELL)) continue;
          own.add(j);
          shape[j] = kind;
        }
    }
    // A flat is a shape, but none that one keeps near to.
    if (f.kind !== 'flat') own.forEach((i) => shapeSeeds.add(i));
    if (f.kind === 'channel' || f.kind === 'channel swing' || f.kind === 'gully') own.forEach((i) => channelSeeds.add(i));
  }
  const sorted = Array.from(cells.depth)
    .filter((d) => !Number.isNaN(d))
    .sort((a, b) => a - b);
  const deep = 0.6 * (sorted[Math.floor(sorted.length * 0.95)] ?? Infinity);
  const deepSeeds: number[] = [];
  cells.depth.forEach((d, i) => d >= deep && deepSeeds.push(i));
  const far = (seeds: Iterable<number>): Float32Array => atMost(throughWater(neighbours, n, seeds, FARTHEST), FARTHEST);
  return {
    cells,
    top,
    curvature,
    shapeKinds,
    shape,
    shapeDistance: far(shapeSeeds),
    channelDistance: channelSeeds.size ? far(channelSeeds) : new Float32Array(n).fill(NaN),
    deepDistance: far(deepSeeds),
    arm: armsOf(cells, neighbours),
  };
}

/** The cover a cell has within 25 m: none, wood (timber, brush, rock, docks) or weed, whichever is nearer. */
export const COVER_AT = ['open', 'weed', 'hard cover'] as const;
export const coverAt = (cells: CellTable, i: number): number => {
  const [wood, weed] = [cells.woodDistance[i], cells.weedDistance[i]];
  if (Math.min(wood, weed) > CELL) return 0;
  return wood <= weed ? 2 : 1;
};
