import { slidingMedian, type Pass, type SoundingTable } from './table';

/** Faster than any boat this is made for, m/s (about 78 knots). */
const FASTEST = 40;
/** A fix this far from the middle of its neighbours, m, is a jump at any speed. */
const LEAST = 15;

/**
 * Marks fixes that jumped: far from the median of their neighbours (good for up to three in a row), or reached at a
 * speed no boat has, when the track then comes back.
 * @param left 1 for soundings already left out; jumps are added @returns how many were found
 */
export function markJumps({ time, x, y }: Pick<SoundingTable, 'time' | 'x' | 'y'>, passes: Pass[], left: Uint8Array): number {
  let found = 0;
  for (const pass of passes) {
    if (pass.to - pass.from < 5) continue;
    const steps: number[] = [];
    for (let i = pass.from + 1; i < pass.to; i += Math.max(1, Math.floor((pass.to - pass.from) / 200)))
      steps.push(Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]));
    steps.sort((a, b) => a - b);
    const step = steps[steps.length >> 1];
    const limit = Math.max(LEAST, 5 * step);
    for (let i = pass.from; i < pass.to; i++) {
      // Only near a long step can anything lie far from its neighbours.
      if (left[i] || !longStepNear(x, y, pass, i, limit / 4)) continue;
      const window = { from: Math.max(pass.from, i - 3), to: Math.min(pass.to, i + 4) };
      const at = i - window.from;
      const mx = slidingMedian(x, window, 6, left)[at];
      const my = slidingMedian(y, window, 6, left)[at];
      // At the ends the window leans to one side, by up to one and a half steps.
      const room = window.to - window.from < 7 ? limit + 3 * step : limit;
      if (Math.hypot(x[i] - mx, y[i] - my) > room) {
        left[i] = 1;
        found++;
      }
    }
    found += markImpossible({ time, x, y }, pass, left);
  }
  return found;
}

function longStepNear(x: Float64Array, y: Float64Array, { from, to }: Pass, i: number, limit: number): boolean {
  for (let k = Math.max(from + 1, i - 3); k < Math.min(to, i + 4); k++)
    if (Math.abs(x[k] - x[k - 1]) > limit || Math.abs(y[k] - y[k - 1]) > limit) return true;
  return false;
}

/** Longer excursions: what lies between an impossible leap and the leap back. */
function markImpossible({ time, x, y }: Pick<SoundingTable, 'time' | 'x' | 'y'>, { from, to }: Pass, left: Uint8Array): number {
  let found = 0;
  let good = -1;
  for (let i = from; i < to; i++) {
    if (left[i]) continue;
    const reach = (a: number, b: number): boolean =>
      Math.hypot(x[b] - x[a], y[b] - y[a]) <= FASTEST * Math.max(0.5, (time[b] - time[a]) / 1000) + LEAST;
    if (good < 0 || reach(good, i)) {
      good = i;
      continue;
    }
    let back = i + 1;
    while (back < to && back < i + 60 && (left[back] || !reach(good, back))) back++;
    if (back < to && back < i + 60) {
      for (let k = i; k < back; k++)
        if (!left[k]) {
          left[k] = 1;
          found++;
        }
      i = back - 1;
    } else good = i; // It never comes back: the log was cut and goes on elsewhere.
  }
  return found;
}
