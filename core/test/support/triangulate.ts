import Delaunator from 'delaunator';
import type { Raster } from '../../src/geo';

/**
 * Fills a raster by linear interpolation over the Delaunay triangles of scattered values.
 * @param points x0, y0, x1, y1 … in metres @param values one a point
 * @param into raster to fill; cells whose centre lies in no triangle stay as they are
 */
export function interpolateTriangles(points: Float64Array, values: ArrayLike<number>, into: Raster): void {
  if (values.length < 3) return;
  const { triangles } = new Delaunator(points);
  const { x0, y0, size, width, height, data } = into;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const [ax, ay, bx, by, cx, cy] = [points[2 * a], points[2 * a + 1], points[2 * b], points[2 * b + 1], points[2 * c], points[2 * c + 1]];
    const det = (by - cy) * (ax - cx) + (cx - bx) * (ay - cy);
    if (Math.abs(det) < 1e-9) continue;
    const i0 = Math.max(0, Math.ceil((Math.min(ax, bx, cx) - x0) / size - 0.5));
    const i1 = Math.min(width - 1, Math.floor((Math.max(ax, bx, cx) - x0) / size - 0.5));
    const j0 = Math.max(0, Math.ceil((Math.min(ay, by, cy) - y0) / size - 0.5));
    const j1 = Math.min(height - 1, Math.floor((Math.max(ay, by, cy) - y0) / size - 0.5));
    for (let j = j0; j <= j1; j++) {
      const y = y0 + (j + 0.5) * size;
      for (let i = i0; i <= i1; i++) {
        const x = x0 + (i + 0.5) * size;
        const u = ((by - cy) * (x - cx) + (cx - bx) * (y - cy)) / det;
        const v = ((cy - ay) * (x - cx) + (ax - cx) * (y - cy)) / det;
        if (u >= -1e-9 && v >= -1e-9 && u + v <= 1 + 1e-9) data[j * width + i] = u * values[a] + v * values[b] + (1 - u - v) * values[c];
      }
    }
  }
}
