import { Raster } from '../geo';

/** Mean over a square window of half-width `radius` cells, leaving out NaN; by running sums. */
export function windowMean(raster: Raster, radius: number): Raster {
  const { width, height, data } = raster;
  const sum = new Float64Array((width + 1) * (height + 1));
  const count = new Uint32Array((width + 1) * (height + 1));
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const v = data[j * width + i];
      const k = (j + 1) * (width + 1) + i + 1;
      const known = Number.isNaN(v) ? 0 : 1;
      sum[k] = (known ? v : 0) + sum[k - 1] + sum[k - width - 1] - sum[k - width - 2];
      count[k] = known + count[k - 1] + count[k - width - 1] - count[k - width - 2];
    }
  const out = raster.like();
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const [i0, i1, j0, j1] = [
        Math.max(0, i - radius),
        Math.min(width, i + radius + 1),
        Math.max(0, j - radius),
        Math.min(height, j + radius + 1),
      ];
      const corner = (table: ArrayLike<number>): number =>
        table[j1 * (width + 1) + i1] - table[j0 * (width + 1) + i1] - table[j1 * (width + 1) + i0] + table[j0 * (width + 1) + i0];
      const n = corner(count);
      if (n > 0) out.data[j * width + i] = corner(sum) / n;
    }
  return out;
}

/**
 * Bathymetric position: how much shallower a place is than its surroundings, m. Positive on humps and points,
 * negative in holes and channels. @param metres half-width of the surroundings
 */
export function bottomPosition(depth: Raster, metres: number): Raster {
  const around = windowMean(depth, Math.max(1, Math.round(metres / depth.size)));
  const out = depth.like();
  for (let k = 0; k < out.data.length; k++) out.data[k] = around.data[k] - depth.data[k];
  return out;
}

/** Slope of the bottom, metres fall per metre, by central differences (one-sided at an edge). */
export function slope(depth: Raster): Raster {
  const { width, height, data, size } = depth;
  const out = depth.like();
  const difference = (k: number, step: number, atLow: boolean, atHigh: boolean): number => {
    const here = data[k];
    const low = atLow || Number.isNaN(data[k - step]) ? here : data[k - step];
    const high = atHigh || Number.isNaN(data[k + step]) ? here : data[k + step];
    const span = (low === here ? 0 : 1) + (high === here ? 0 : 1);
    return (high - low) / (size * Math.max(1, span));
  };
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (Number.isNaN(data[k])) continue;
      out.data[k] = Math.hypot(difference(k, 1, i === 0, i === width - 1), difference(k, width, j === 0, j === height - 1));
    }
  return out;
}
