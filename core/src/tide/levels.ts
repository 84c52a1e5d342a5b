import type { Tide } from './extremes';

/** Between so close moments the height goes evenly, ms. */
const STEP = 10 * 60_000;

/**
 * Heights of a tide about some moments, close enough to go between them evenly; nothing where the tide says nothing.
 * @param times ms, in any order @returns sorted by time, m over the datum
 */
export function levelsAbout(tide: Tide, times: ArrayLike<number>): { at: number; level: number }[] {
  const ticks = new Set<number>();
  for (let i = 0; i < times.length; i++) {
    if (!Number.isFinite(times[i])) continue;
    const tick = Math.floor(times[i] / STEP);
    ticks.add(tick).add(tick + 1);
  }
  return [...ticks]
    .sort((a, b) => a - b)
    .map((tick) => ({ at: tick * STEP, level: tide.height(tick * STEP) }))
    .filter(({ level }) => !Number.isNaN(level));
}
