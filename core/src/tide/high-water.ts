import { extremesOf, type Tide } from './extremes';

const DAY = 86_400_000;
/** From springs to springs, days. */
const FORTNIGHT = 14.765;

/**
 * Mean height of high water at springs, m over the datum: the mean, over the fortnights of a year, of the two high waters in a row
 * that are highest together. Shore lines of maps and charts are drawn there. 0 where no high water is known.
 * @param about within the year, ms; a table of high and low waters is taken whole
 */
export function highWaterSprings(tide: Tide, about: number): number {
  const turns = tide.turns?.(-Infinity, Infinity) ?? extremesOf(tide, about - 182.5 * DAY, about + 182.5 * DAY);
  const highs = turns.filter((t) => t.high);
  const best = new Map<number, number>();
  highs.forEach(({ at, height }, k) => {
    const pair = k > 0 && at - highs[k - 1].at < 1.2 * DAY ? (height + highs[k - 1].height) / 2 : height;
    const fortnight = Math.floor((at - highs[0].at) / (FORTNIGHT * DAY));
    best.set(fortnight, Math.max(best.get(fortnight) ?? -Infinity, pair));
  });
  return best.size ? [...best.values()].reduce((sum, h) => sum + h, 0) / best.size : 0;
}

/** When a tide passes a height. */
export interface Crossing {
  /** ms */
  at: number;
  rising: boolean;
}

const STEP = 10 * 60_000;

/**
 * The next time that a tide passes a height: when a place that falls dry is covered or bared. Null where it does not within a day and an
 * hour, or where the tide says nothing.
 * @param height m over the datum @param from ms
 */
export function nextCrossing(tide: Tide, height: number, from: number): Crossing | null {
  let before = tide.height(from);
  for (let at = from + STEP; at <= from + 25 * 3_600_000; at += STEP) {
    const now = tide.height(at);
    if (before < height !== now < height && !Number.isNaN(before + now))
      return { at: at - STEP * ((now - height) / (now - before)), rising: now > before };
    before = now;
  }
  return null;
}
