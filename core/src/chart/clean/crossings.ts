import type { Pass } from './table';

/**
 * Spread of depths where passes meet, m: the standard deviation within 5 m squares between the means of different
 * passes. Null where fewer than 10 squares were crossed twice.
 */
export function crossingSpread(x: Float64Array, y: Float64Array, depth: Float32Array, passes: Pass[], left: Uint8Array): number | null {
  const size = 5;
  const every = Math.ceil(depth.length / 150_000);
  // Per square: the running pass, its sum and count, and over passes the number, sum and sum of squares of their means.
  const squares = new Map<number, [pass: number, sum: number, n: number, passes: number, total: number, square: number]>();
  const close = (s: [number, number, number, number, number, number]): void => {
    const mean = s[1] / s[2];
    s[3]++;
    s[4] += mean;
    s[5] += mean * mean;
  };
  passes.forEach(({ from, to }, p) => {
    for (let i = from; i < to; i++) {
      if (left[i]) continue;
      const [column, row] = [Math.floor(x[i] / size), Math.floor(y[i] / size)];
      // Of a large survey a sample of the squares will do.
      if (every > 1 && (column * 7 + row * 13) % every !== 0) continue;
      const key = row * 16777216 + column;
      const s = squares.get(key);
      if (!s) squares.set(key, [p, depth[i], 1, 0, 0, 0]);
      else if (s[0] === p) {
        s[1] += depth[i];
        s[2]++;
      } else {
        close(s);
        s[0] = p;
        s[1] = depth[i];
        s[2] = 1;
      }
    }
  });
  let [sum, free, met] = [0, 0, 0];
  for (const s of squares.values()) {
    if (s[3] === 0) continue;
    close(s);
    sum += Math.max(0, s[5] - (s[4] * s[4]) / s[3]);
    free += s[3] - 1;
    met++;
  }
  return met >= 10 ? Math.sqrt(sum / free) : null;
}
