import { Raster } from '../geo';

/** Running sums of a raster from its corner, with a row and a column of zeros before it; NaN counts for nothing. */
function runningSums({ width, height, data }: Raster): { sum: Float64Array; count: Uint32Array } {
  const sum = new Float64Array((width + 1) * (height + 1));
  const count = new Uint32Array((width + 1) * (height + 1));
  for (let j = 0; j < height; j++) {
    let [rowSum, rowCount] = [0, 0];
    for (let i = 0, k = (j + 1) * (width + 1) + 1; i < width; i++, k++) {
      const v = data[j * width + i];
      if (v === v) {
        rowSum += v;
        rowCount++;
      }
      sum[k] = rowSum + sum[k - width - 1];
      count[k] = rowCount + count[k - width - 1];
    }
  }
  return { sum, count };
}

/**
 * Bathymetric position: how much shallower a place is than its surroundings, m. Positive on humps and points,
 * negative in holes and channels. @param scales half-widths of the surroundings, m @returns a raster a scale
 */
export function bottomPositions(depth: Raster, scales: number[]): Raster[] {
  const { width, height, size, data } = depth;
  const { sum, count } = runningSums(depth);
  return scales.map((metres) => {
    const radius = Math.max(1, Math.round(metres / size));
    const out = depth.like();
    for (let j = 0; j < height; j++) {
      const low = Math.max(0, j - radius) * (width + 1);
      const high = Math.min(height, j + radius + 1) * (width + 1);
      for (let i = 0; i < width; i++) {
        const [i0, i1] = [Math.max(0, i - radius), Math.min(width, i + radius + 1)];
        const n = count[high + i1] - count[low + i1] - count[high + i0] + count[low + i0];
        const k = j * width + i;
        if (n > 0) out.data[k] = (sum[high + i1] - sum[low + i1] - sum[high + i0] + sum[low + i0]) / n - data[k];
      }
    }
    return out;
  });
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
