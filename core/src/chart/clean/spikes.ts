import type { Pass } from './table';

/** What differs by less is no spike, m. */
const LEAST = 0.3;

/**
 * Marks depth spikes: single soundings or a few that lie far from the median of their neighbours along the pass, by the
 * spread of the pass itself. What is expected comes from pairs of neighbours to either side, so that a slope is no spike.
 * @param left 1 for soundings already left out; spikes are added @returns how many were found
 */
export function markSpikes(depth: Float32Array, passes: Pass[], left: Uint8Array): number {
  let found = 0;
  for (const pass of passes) {
    const n = pass.to - pass.from;
    if (n < 5) continue;
    const off = (i: number): number => Math.abs(depth[i] - expected(depth, pass, i, left));
    for (let i = pass.from; i < pass.to; i++) {
      if (left[i] || !suspect(depth, pass, i)) continue;
      const here = off(i);
      const usual: number[] = [];
      for (let k = Math.max(pass.from, i - 15); k < Math.min(pass.to, i + 16); k++) if (!left[k]) usual.push(off(k));
      usual.sort((a, b) => a - b);
      // 1.4826 makes a median deviation comparable with a standard deviation; six of them are no chance.
      if (here > Math.max(LEAST, 0.04 * (depth[i] - here), 6 * 1.4826 * usual[usual.length >> 1])) {
        left[i] = 1;
        found++;
      }
    }
  }
  return found;
}

/** A quick test that lets nearly all pass: whether a sounding differs from the means of its neighbours at all. */
function suspect(depth: Float32Array, { from, to }: Pass, i: number): boolean {
  for (const k of [1, 3]) {
    const a = i - k < from ? i + 2 * k : i - k;
    const b = i + k >= to ? i - 2 * k : i + k;
    if (a >= from && a < to && b >= from && b < to && Math.abs(depth[i] - (depth[a] + depth[b]) / 2) > 0.8 * LEAST) return true;
  }
  return false;
}

/** Depth expected from the neighbours: the median of the means of pairs, before and after; at an end, of straight lines on. */
function expected(depth: Float32Array, { from, to }: Pass, i: number, left: Uint8Array): number {
  const guesses: number[] = [];
  for (let k = 1; k <= 5; k++) {
    const [a, b] = [i - k, i + k];
    if (a >= from && b < to) {
      if (!left[a] && !left[b]) guesses.push((depth[a] + depth[b]) / 2);
    } else {
      const side = a < from ? 1 : -1;
      const [near, far] = [i + side * k, i + side * 2 * k];
      if (far >= from && far < to && !left[near] && !left[far]) guesses.push(2 * depth[near] - depth[far]);
    }
  }
  if (!guesses.length) return depth[i];
  guesses.sort((p, q) => p - q);
  const m = guesses.length >> 1;
  return guesses.length % 2 ? guesses[m] : (guesses[m - 1] + guesses[m]) / 2;
}
