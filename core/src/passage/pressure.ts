import type { Point } from '../geo';

/** A stop that was fished before. */
export interface StopBefore {
  /** m */
  at: Point;
  /** ms */
  end: number;
  /** Other boats that were near; null where nobody said. */
  boats: number | null;
}

/** How much a spot was fished lately. */
export interface Pressure {
  /** Days since the last stop there; null where none is logged. */
  days: number | null;
  /** Other boats near it, the mean of what was logged; null where nobody said. */
  boats: number | null;
  /** What is left of its bites, 0–1. */
  rested: number;
}

/** Stops so near are at the same spot, m. */
const NEAR = 60;
/** A spot fished just now has lost this share, and wins 63 % of it back in so many days; each other boat that is usually there takes its part. Judgements. */
const [LOST, BACK, BY_BOAT] = [0.3, 4, 0.08];

/** How much a spot was fished, from the stops of the log. @param now ms */
export function pressureAt([x, y]: Point, before: readonly StopBefore[], now: number): Pressure {
  const here = before.filter(({ at, end }) => end <= now && Math.hypot(at[0] - x, at[1] - y) <= NEAR);
  const told = here.flatMap(({ boats }) => (boats === null ? [] : [boats]));
  const days = here.length ? (now - Math.max(...here.map((s) => s.end))) / 86_400_000 : null;
  const boats = told.length ? told.reduce((s, b) => s + b, 0) / told.length : null;
  const rested = (days === null ? 1 : 1 - LOST * Math.exp(-days / BACK)) * (1 - BY_BOAT) ** (boats ?? 0);
  return { days, boats, rested };
}
