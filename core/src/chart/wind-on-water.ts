import { waveHeight } from '../lake';
import { FETCH_DIRECTIONS, type CellTable } from './cells';

/**
 * Effective fetch of a cell for a wind, m: the open water over 45° to either side, weighted by the cosine of the
 * angle, so that a narrow arm does not count as its whole length. Source: Shore Protection Manual 1984.
 */
export function effectiveFetch(cells: CellTable, i: number, from: number): number {
  const step = 360 / FETCH_DIRECTIONS;
  let [sum, weight] = [0, 0];
  for (let k = -2; k <= 2; k++) {
    const cosine = Math.cos((k * step * Math.PI) / 180);
    const d = (((Math.round(from / step) + k) % FETCH_DIRECTIONS) + FETCH_DIRECTIONS) % FETCH_DIRECTIONS;
    sum += cells.fetch[i * FETCH_DIRECTIONS + d] * cosine * cosine;
    weight += cosine;
  }
  return sum / weight;
}

/** Height of the waves on each cell for a wind, m. @param usual mean depth that is taken where none is charted, m */
export function waveHeights(cells: CellTable, from: number, speed: number, usual = 1): Float32Array {
  const mean = meanDepth(cells, usual);
  return Float32Array.from({ length: cells.count }, (_, i) =>
    waveHeight(speed, effectiveFetch(cells, i, from), Math.max(0.5, Number.isNaN(cells.depth[i]) ? mean : (cells.depth[i] + mean) / 2)),
  );
}

function meanDepth(cells: CellTable, usual: number): number {
  let [sum, area] = [0, 0];
  for (let i = 0; i < cells.count; i++)
    if (!Number.isNaN(cells.depth[i])) {
      sum += cells.depth[i] * cells.area[i];
      area += cells.area[i];
    }
  return area > 0 ? sum / area : usual;
}
