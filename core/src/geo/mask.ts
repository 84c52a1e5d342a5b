import type { Rings } from './outline';

/**
 * Which cell centres of a grid lie inside rings (even-odd), row by row: one pass over the edges a row.
 * @returns 1 inside, 0 outside; row 0 is the southernmost
 */
export function insideMask(rings: Rings, x0: number, y0: number, size: number, width: number, height: number): Uint8Array {
  const mask = new Uint8Array(width * height);
  const edges = rings.flatMap((ring) => ring.map((p, i) => [p, ring[(i + ring.length - 1) % ring.length]]));
  const byRow: [number, number, number, number][][] = Array.from({ length: height }, () => []);
  for (const [[xa, ya], [xb, yb]] of edges) {
    const from = Math.max(0, Math.floor((Math.min(ya, yb) - y0) / size - 0.5));
    const to = Math.min(height - 1, Math.ceil((Math.max(ya, yb) - y0) / size - 0.5));
    for (let j = from; j <= to; j++) byRow[j].push([xa, ya, xb, yb]);
  }
  for (let j = 0; j < height; j++) {
    const y = y0 + (j + 0.5) * size;
    const xs: number[] = [];
    for (const [xa, ya, xb, yb] of byRow[j]) if (ya > y !== yb > y) xs.push(xa + ((xb - xa) * (y - ya)) / (yb - ya));
    xs.sort((a, b) => a - b);
    for (let k = 0; k + 1 < xs.length; k += 2) {
      const from = Math.max(0, Math.ceil((xs[k] - x0) / size - 0.5));
      const to = Math.min(width - 1, Math.ceil((xs[k + 1] - x0) / size - 0.5) - 1);
      if (to >= from) mask.fill(1, j * width + from, j * width + to + 1);
    }
  }
  return mask;
}
