import type { Estimated } from './mount-offsets';

/** One try: a target at a setting, and whether it showed. */
export interface DetectionTry {
  /** The setting: gain, dB or steps. */
  level: number;
  seen: boolean;
}

/** How likely a target shows by the setting. */
export interface DetectionCurve {
  /** The setting at which it shows every other time. */
  threshold: Estimated;
  /** How fast chance grows with the setting: from one in four to three in four within 2.2 widths. */
  width: number;
  /** The least setting at which it shows nine times in ten: the one to use. */
  use: Estimated;
  /** Whether the tries say where it lies: some seen, some not. */
  decided: boolean;
}

const STEPS = { threshold: 161, width: 41 };
const LOGIT_NINE = Math.log(9);

/** Value at a share of a weighted sorted list. */
function quantile(sorted: { value: number; weight: number }[], share: number): number {
  let sum = 0;
  for (const { value, weight } of sorted) if ((sum += weight) >= share) return value;
  return sorted.at(-1)!.value;
}

/**
 * The setting from which on a target shows, from tries at several: a logistic curve, by Bayes on a grid (threshold even from one
 * span below to one above what was tried, width even in its logarithm), so that tries which part cleanly have an answer too.
 * @param tries at least one
 * @returns medians with 80 % intervals
 * @example detectionCurve([{ level: 40, seen: false }, { level: 50, seen: true }]).threshold.value // 45
 */
export function detectionCurve(tries: readonly DetectionTry[]): DetectionCurve {
  const levels = tries.map((t) => t.level);
  const [low, high] = [Math.min(...levels), Math.max(...levels)];
  const span = Math.max(high - low, 1e-6);
  const cells: { threshold: number; width: number; weight: number }[] = [];
  for (let i = 0; i < STEPS.threshold; i++)
    for (let j = 0; j < STEPS.width; j++) {
      const threshold = low - span + (3 * span * i) / (STEPS.threshold - 1);
      // From a hundredth of what was tried to the whole of it.
      const width = span * 10 ** (-2 + (2 * j) / (STEPS.width - 1));
      let log = 0;
      for (const { level, seen } of tries) {
        const eta = ((seen ? 1 : -1) * (level - threshold)) / width;
        log -= eta > 0 ? Math.log1p(Math.exp(-eta)) : -eta + Math.log1p(Math.exp(eta));
      }
      cells.push({ threshold, width, weight: log });
    }
  const top = cells.reduce((most, c) => Math.max(most, c.weight), -Infinity);
  let total = 0;
  for (const c of cells) total += c.weight = Math.exp(c.weight - top);
  const estimated = (of: (c: (typeof cells)[number]) => number): Estimated => {
    const sorted = cells.map((c) => ({ value: of(c), weight: c.weight / total })).sort((a, b) => a.value - b.value);
    return { value: quantile(sorted, 0.5), low: quantile(sorted, 0.1), high: quantile(sorted, 0.9) };
  };
  return {
    threshold: estimated((c) => c.threshold),
    width: estimated((c) => c.width).value,
    use: estimated((c) => c.threshold + LOGIT_NINE * c.width),
    decided: tries.some((t) => t.seen) && tries.some((t) => !t.seen),
  };
}
