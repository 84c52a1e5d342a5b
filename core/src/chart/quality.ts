import type { Raster } from '../geo';
import { blur, type Field } from './features/field';
import type { Bins } from './surface';

/** Distance of each cell to the nearest sounding, m; by two sweeps of steps (good to 8 %). */
export function distanceToSoundings(frame: Raster, bins: Pick<Bins, 'x' | 'y' | 'count'>): Raster {
  const out = frame.like();
  const { width, height, size, data } = out;
  data.fill(1e6);
  for (let b = 0; b < bins.count; b++) {
    const k = out.index(bins.x[b], bins.y[b]);
    if (k >= 0) data[k] = 0;
  }
  const [straight, across] = [size, size * Math.SQRT2];
  const relax = (k: number, m: number, step: number): void => {
    if (data[m] + step < data[k]) data[k] = data[m] + step;
  };
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (i > 0) relax(k, k - 1, straight);
      if (j > 0) {
        relax(k, k - width, straight);
        if (i > 0) relax(k, k - width - 1, across);
        if (i < width - 1) relax(k, k - width + 1, across);
      }
    }
  for (let j = height - 1; j >= 0; j--)
    for (let i = width - 1; i >= 0; i--) {
      const k = j * width + i;
      if (i < width - 1) relax(k, k + 1, straight);
      if (j < height - 1) {
        relax(k, k + width, straight);
        if (i < width - 1) relax(k, k + width + 1, across);
        if (i > 0) relax(k, k + width - 1, across);
      }
    }
  return out;
}

/** Half of what a bottom has in store for the unwary shows within this distance of a sounding, m. */
const REACH = 30;

/**
 * Expected error of the depth in each cell, m: at a sounding the scatter of soundings about the surface; farther off it
 * grows to the roughness of this bottom, the spread of the depth about its own mean over some 50 m.
 * @param scatter spread of the soundings about the surface, m
 */
export function expectedError(field: Field, distance: Raster, scatter: number): Raster {
  const smooth = blur(field, Math.max(25, 2 * field.size));
  let [sum, n] = [0, 0];
  for (let k = 0; k < field.data.length; k++) {
    if (!field.known[k] || distance.data[k] > field.size) continue;
    sum += (field.data[k] - smooth.data[k]) ** 2;
    n++;
  }
  const rough = n ? Math.sqrt(sum / n) : 0.5;
  const out = distance.like();
  for (let k = 0; k < out.data.length; k++) {
    if (!field.known[k]) continue;
    const share = 1 - Math.exp(-((distance.data[k] / REACH) ** 2));
    // Beyond some hundred metres even the broad lie of the bottom is a guess.
    const far = distance.data[k] > 100 ? (distance.data[k] - 100) * 0.01 : 0;
    out.data[k] = Math.hypot(scatter, rough * share * 1.5, far);
  }
  return out;
}
