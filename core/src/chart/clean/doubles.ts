import { slidingMedian, type Pass, type SoundingTable } from './table';

/** Longest stretch of second echoes that is believed, soundings. */
const LONGEST = 200;
/** A step by less than this may be the bottom's own, m; so may one that falls less than this, metres per metre. */
const LEAST_STEP = 0.8;
const LEAST_FALL = 0.25;

/**
 * Finds stretches in which the unit locked on to the second echo (twice the depth) or half of it, and brings the depth
 * back: they begin and end with a step by a factor of two that no bottom has, and fit what is before and after.
 * @param place where the boat was, m @param depth is repaired in place @returns how many soundings were repaired
 */
export function repairDoubles({ x, y }: Pick<SoundingTable, 'x' | 'y'>, depth: Float32Array, passes: Pass[], left: Uint8Array): number {
  let repaired = 0;
  for (const pass of passes) {
    const n = pass.to - pass.from;
    if (n < 8) continue;
    const smooth = slidingMedian(depth, pass, 2, left);
    // Steps by two: the place where the smoothed depth changes most within a few soundings.
    const steps: { at: number; up: boolean }[] = [];
    for (let i = 1; i < n; i++) {
      // Nearly all: no step at all, and quickly told.
      if (Math.abs(smooth[i] - smooth[i - 1]) < 0.2 * smooth[i - 1]) continue;
      const ratio = smooth[i] / smooth[i - 1];
      const apart = Math.hypot(x[pass.from + i] - x[pass.from + i - 1], y[pass.from + i] - y[pass.from + i - 1]);
      // Where soundings are far apart, a slope doubles the depth as well: over a leap, and steeper than any.
      if (Math.abs(smooth[i] - smooth[i - 1]) < LEAST_FALL * apart) continue;
      const wide = smooth[Math.min(n - 1, i + 1)] / smooth[Math.max(0, i - 2)];
      const up = near(ratio, 2) || (ratio > 1.3 && near(wide, 2));
      const down = near(ratio, 0.5) || (ratio < 0.77 && near(wide, 0.5));
      if (!(up || down) || !abrupt(smooth, i)) continue;
      const last = steps[steps.length - 1];
      if (last && last.up === up && i - last.at <= 3) continue;
      steps.push({ at: i, up });
    }
    for (let s = 0; s + 1 < steps.length; s++) {
      const [a, b] = [steps[s], steps[s + 1]];
      if (a.up === b.up || b.at - a.at > LONGEST) continue;
      // Of the stretch and its surroundings, the shorter is the wrong one.
      const around = a.at - (steps[s - 1]?.at ?? 0) + ((steps[s + 2]?.at ?? n) - b.at);
      if (around < b.at - a.at) continue;
      const factor = a.up ? 0.5 : 2;
      // Brought back, it has to join on to both sides.
      const joins = (inside: number, outside: number): boolean => Math.abs(Math.log((inside * factor) / outside)) < 0.2;
      const [first, last] = [smooth[Math.min(b.at - 1, a.at + 1)], smooth[Math.max(a.at, b.at - 2)]];
      if (!joins(first, smooth[Math.max(0, a.at - 2)]) || !joins(last, smooth[Math.min(n - 1, b.at + 1)])) continue;
      repaired += repair(
        depth,
        left,
        pass.from + a.at,
        pass.from + b.at,
        factor,
        (smooth[a.at - 1] + smooth[Math.min(n - 1, b.at)]) / 2,
        pass,
      );
      s++;
    }
  }
  return repaired;
}

/** Whether the depth leaps here, beside what it does a little before and after. */
function abrupt(smooth: Float32Array, i: number): boolean {
  const leap = Math.max(
    Math.abs(smooth[i] - smooth[i - 1]),
    Math.abs((smooth[i + 1] ?? smooth[i]) - (smooth[i - 2] ?? smooth[i - 1])) * 0.7,
  );
  if (leap < LEAST_STEP) return false;
  const usual: number[] = [];
  for (let k = Math.max(1, i - 10); k < Math.min(smooth.length, i + 11); k++)
    if (Math.abs(k - i) > 2) usual.push(Math.abs(smooth[k] - smooth[k - 1]));
  usual.sort((p, q) => p - q);
  return leap > 4 * (usual[usual.length >> 1] ?? 0);
}

const near = (ratio: number, factor: number): boolean => Math.abs(Math.log(ratio / factor)) < 0.16;

/** Repairs a stretch and the soundings at its rims that fit better by the factor. */
function repair(depth: Float32Array, left: Uint8Array, from: number, to: number, factor: number, level: number, pass: Pass): number {
  let n = 0;
  let expected = level;
  for (let i = Math.max(pass.from, from - 2); i < Math.min(pass.to, to + 2); i++) {
    if (left[i]) continue;
    const fixed = depth[i] * factor;
    const better = Math.abs(Math.log(fixed / expected)) < Math.abs(Math.log(depth[i] / expected));
    if (better) {
      depth[i] = fixed;
      n++;
    }
    if (Math.abs(Math.log(depth[i] / expected)) < 0.2) expected = 0.7 * expected + 0.3 * depth[i];
  }
  return n;
}
