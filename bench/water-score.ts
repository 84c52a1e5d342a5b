import { calibrationSlope, logScore } from '@restless-shoal/core/forecast';

/** How a forecast does on the whole water, against the chance that one who knows the rules would give. */
export interface WaterScore {
  /** Expected log score a look of a whole cell, nats: higher is better. */
  logScore: number;
  /** Way from the constant of the true mean (0) to the one who knows (1). */
  skill: number;
  expectedOverTrue: number;
  slope: number;
  /** Mean distance between said and true over tenths of the water, against the mean. */
  decileError: number;
}

/** Share of cells whose true chance lies in the interval given, and the same with each cell counting by that chance. */
export function coverage(
  intervals: { low: ArrayLike<number>; high: ArrayLike<number> }[],
  known: ArrayLike<number>[],
): { cells: number; fish: number } {
  let [n, inside, weight, weighted] = [0, 0, 0, 0];
  intervals.forEach(({ low, high }, d) => {
    for (let i = 0; i < known[d].length; i++) {
      const q = known[d][i];
      const holds = q >= low[i] && q <= high[i] ? 1 : 0;
      n++;
      inside += holds;
      weight += q;
      weighted += holds * q;
    }
  });
  return { cells: inside / n, fish: weighted / weight };
}

/** Scores chances against known ones; both one list a day. */
export function waterScore(said: ArrayLike<number>[], known: ArrayLike<number>[]): WaterScore {
  const p: number[] = [];
  const q: number[] = [];
  said.forEach((day, d) => {
    for (let i = 0; i < day.length; i++) {
      p.push(day[i]);
      q.push(known[d][i]);
    }
  });
  const n = p.length;
  const mean = q.reduce((s, v) => s + v, 0) / n;
  let [own, constant, best, expected] = [0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    own += logScore(p[i], q[i]);
    constant += logScore(mean, q[i]);
    best += logScore(q[i], q[i]);
    expected += p[i];
  }
  const order = Array.from({ length: n }, (_, i) => i).sort((a, b) => p[a] - p[b]);
  let off = 0;
  for (let t = 0; t < 10; t++) {
    const part = order.slice(Math.floor((t * n) / 10), Math.floor(((t + 1) * n) / 10));
    off += Math.abs(part.reduce((s, i) => s + p[i] - q[i], 0)) / part.length / 10;
  }
  return {
    logScore: own / n,
    skill: (own - constant) / (best - constant),
    expectedOverTrue: expected / n / mean,
    slope: calibrationSlope(p.map((said, i) => ({ trip: 0, said, seen: q[i], weight: 1 }))),
    decileError: off / mean,
  };
}
