import { seeded } from '@restless-shoal/core/numbers';

/** Random draws from one seed. */
export class Random {
  private readonly next: () => number;
  constructor(seed: number) {
    this.next = seeded(seed);
  }
  /** Evenly from 0 to 1, or between two bounds. */
  even(low = 0, high = 1): number {
    return low + (high - low) * this.next();
  }
  normal(mean = 0, spread = 1): number {
    return mean + spread * Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next());
  }
  chance(p: number): boolean {
    return this.next() < p;
  }
  whole(low: number, high: number): number {
    return Math.floor(this.even(low, high + 1));
  }
  poisson(mean: number): number {
    let k = 0;
    for (let p = this.next(); p > Math.exp(-mean) && k < 10000; p *= this.next()) k++;
    return k;
  }
  pick<T>(from: readonly T[]): T {
    return from[Math.floor(this.next() * from.length)];
  }
  /** Index drawn in proportion to running sums. */
  weighted(running: Float64Array): number {
    const wanted = this.next() * running[running.length - 1];
    let [low, high] = [0, running.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (running[middle] < wanted) low = middle + 1;
      else high = middle;
    }
    return low;
  }
  /** A generator of its own that depends on this seed and a number. */
  fork(n: number): Random {
    return new Random(Math.floor(this.next() * 4294967296) ^ Math.imul(n + 1, 2654435761));
  }
}

/** Smooth noise on a lattice of `scale` metres, about −1 … 1; the same for the same seed. */
export function smoothNoise(seed: number, scale: number): (x: number, y: number) => number {
  const value = (i: number, j: number): number => {
    let h = (Math.imul(i, 374761393) + Math.imul(j, 668265263) + Math.imul(seed, 2246822519)) | 0;
    h = Math.imul(h ^ (h >>> 13), 1274126177);
    return (((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1) * 1.2;
  };
  const fade = (t: number): number => t * t * t * (t * (6 * t - 15) + 10);
  return (x, y) => {
    const [i, j] = [Math.floor(x / scale), Math.floor(y / scale)];
    const [u, v] = [fade(x / scale - i), fade(y / scale - j)];
    const low = value(i, j) + (value(i + 1, j) - value(i, j)) * u;
    const high = value(i, j + 1) + (value(i + 1, j + 1) - value(i, j + 1)) * u;
    return low + (high - low) * v;
  };
}
