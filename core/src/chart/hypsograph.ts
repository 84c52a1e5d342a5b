import type { CellTable } from './cells';

/** What a depth band leaves of a water. Shares of the water's area, 0–1. */
export interface BandShare {
  /** Bottom inside the band. */
  bottom: number;
  /** Band in open water over a deeper bottom. */
  over: number;
  /** Shallower than the band: out. */
  out: number;
}

/** How much of the water has its bottom inside a depth band, how much has the band over a deeper bottom, how much is out. */
export function bandShare(cells: CellTable, top: number, bottom: number): BandShare {
  let [inside, over, total] = [0, 0, 0];
  for (let i = 0; i < cells.count; i++) {
    const d = cells.depth[i];
    if (Number.isNaN(d)) continue;
    total += cells.area[i];
    if (d >= top && d <= bottom) inside += cells.area[i];
    else if (d > bottom) over += cells.area[i];
  }
  return total > 0 ? { bottom: inside / total, over: over / total, out: 1 - (inside + over) / total } : { bottom: 0, over: 0, out: 0 };
}

/**
 * Area of the water at and above each metre of depth, from 0 m to the deepest: for stability and volumes. Where no depth
 * is charted it is a basin as deep as the water is said to be, whose area falls evenly to nothing.
 */
export function hypsographOf(cells: CellTable, deepest: number): { depth: number[]; area: number[] } {
  if (!cells.depth.some((d) => !Number.isNaN(d))) return evenHypsograph(deepest);
  const steps = Math.max(1, Math.ceil(deepest));
  const area = new Array<number>(steps + 1).fill(0);
  for (let i = 0; i < cells.count; i++) {
    if (Number.isNaN(cells.depth[i])) continue;
    for (let z = 0; z <= Math.min(steps, Math.floor(cells.depth[i])); z++) area[z] += cells.area[i];
  }
  area[steps] = 0;
  return { depth: area.map((_, z) => Math.min(z, Math.max(deepest, 0.1))), area };
}

/** Volume of water between two depths, m³: the trapezoid rule over a hypsograph. */
export function volumeBetween({ depth, area }: { depth: number[]; area: number[] }, top: number, bottom: number): number {
  const at = (z: number): number => {
    const k = depth.findIndex((d) => d >= z);
    if (k <= 0) return k === 0 ? area[0] : 0;
    const span = depth[k] - depth[k - 1];
    return span > 0 ? area[k - 1] + ((area[k] - area[k - 1]) * (z - depth[k - 1])) / span : area[k];
  };
  const edges = [top, ...depth.filter((d) => d > top && d < bottom), bottom];
  let volume = 0;
  for (let i = 1; i < edges.length; i++) volume += ((at(edges[i]) + at(edges[i - 1])) / 2) * (edges[i] - edges[i - 1]);
  return volume;
}

/** Area by depth of a basin of a square kilometre that nobody has sounded: it falls evenly to nothing at the deepest. */
function evenHypsograph(deepest: number): { depth: number[]; area: number[] } {
  const steps = Math.max(1, Math.ceil(deepest));
  const depth = Array.from({ length: steps + 1 }, (_, z) => Math.min(z, Math.max(deepest, 0.1)));
  return { depth, area: depth.map((z) => 1e6 * Math.max(0, 1 - z / Math.max(deepest, 0.1))) };
}
