import { USUAL_PACE } from './stay-or-leave';

/** A stop of the log, as what it tells of how fish bite. */
export interface PastStop {
  minutes: number;
  rods: number;
  /** Minutes from its beginning to each bite. */
  bites: number[];
}

/** How fish bite at stops that have any. */
export interface StopPace {
  /** Rod-minutes in which 63 % of the bites come. */
  pace: number;
  /** Bites that a long stay brings where fish are and bite. */
  bites: number;
  /** Stops with bites, and bites, that it rests on. */
  stops: number;
  n: number;
}

/** What is taken before anything is logged counts as so many bites and stops. */
const PRIOR = { bites: 10, stops: 4, perStop: 1.5 };

/**
 * Pace and number of bites, from stops that had some: the pace by the likelihood of exponential times cut off at the end of each
 * stop, drawn toward the usual one; the number corrected for what stops cut short did not see.
 */
export function stopPace(stops: readonly PastStop[]): StopPace {
  const own = stops.filter((s) => s.bites.length && s.minutes > 0);
  const times = own.flatMap(({ minutes, rods, bites }) => {
    const many = Math.max(1, rods);
    return bites.filter((b) => b >= 0 && b <= minutes).map((b) => ({ at: b * many, end: minutes * many }));
  });
  let best = { pace: USUAL_PACE, value: -Infinity };
  for (let k = 0; k <= 60; k++) {
    const pace = 2 * 40 ** (k / 60);
    // The prior as ten bites that came at their usual times and were not cut off.
    let value = -PRIOR.bites * (Math.log(pace) + USUAL_PACE / pace);
    for (const { at, end } of times) value -= Math.log(pace) + at / pace + Math.log(-Math.expm1(-Math.max(end, 0.5) / pace));
    if (value > best.value) best = { pace, value };
  }
  const seen = own.reduce((s, { bites }) => s + bites.length, 0);
  const shown = own.reduce((s, { minutes, rods }) => s + -Math.expm1((-minutes * Math.max(1, rods)) / best.pace), 0);
  return {
    pace: best.pace,
    bites: (seen + PRIOR.stops * PRIOR.perStop) / (shown + PRIOR.stops),
    stops: own.length,
    n: times.length,
  };
}
