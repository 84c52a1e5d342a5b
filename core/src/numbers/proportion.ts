import { seeded } from './random';
import { studentQuantile } from './student';

/** A share with its interval. */
export interface Share {
  share: number;
  low: number;
  high: number;
  /** Trials. */
  n: number;
  /** Trips that they come from. */
  trips: number;
}

/** Wilson's interval of a share. @param z half-width in standard errors. Source: Wilson 1927, JASA 22. */
export function wilson(successes: number, n: number, z: number): [low: number, high: number] {
  if (!(n > 0)) return [0, 1];
  const p = successes / n;
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}

/** One trial: on which trip, and whether it succeeded. */
export interface ShareRow {
  trip: number;
  yes: boolean;
}

/**
 * A share whose trials come in trips, which are alike within themselves: Wilson's interval on the effective number of
 * trials (trials over the design effect of the trips, never more than the trials) with Student's t for few trips.
 * Source: Korn & Graubard 1998, Survey Methodology 24 (effective n), here with Wilson's interval.
 */
export function shareOf(rows: ShareRow[], interval = 0.8): Share {
  const n = rows.length;
  const byTrip = new Map<number, [yes: number, n: number]>();
  for (const { trip, yes } of rows) {
    const t = byTrip.get(trip) ?? [0, 0];
    byTrip.set(trip, [t[0] + (yes ? 1 : 0), t[1] + 1]);
  }
  const yes = rows.filter((r) => r.yes).length;
  const trips = byTrip.size;
  if (!n) return { share: NaN, low: NaN, high: NaN, n, trips };
  const p = yes / n;
  let effect = 1;
  if (trips > 1 && p > 0 && p < 1) {
    let sum = 0;
    for (const [y, m] of byTrip.values()) sum += (y - p * m) ** 2;
    effect = Math.max(1, ((trips / (trips - 1)) * sum) / (n * p * (1 - p)));
  }
  const t = trips > 1 ? studentQuantile((1 + interval) / 2, trips - 1) : 3;
  const [low, high] = wilson((p * n) / effect, n / effect, t);
  return { share: p, low, high, n, trips };
}

/** One trial that has something or not. */
export interface SplitRow extends ShareRow {
  inside: boolean;
}

/** With so many trips or fewer every way of flipping their signs is counted. */
const MOST_COUNTED = 12;
const DRAWS = 1999;

/**
 * Whether trials that have something succeed more or less often than those that have not, both sides. Trials of one trip
 * are alike, and mostly share what they have: each trip gives one score, the covariance of having and succeeding about
 * their means, and the sum of scores is held against all sums of the same scores with their signs flipped. Few trips can
 * then never be striking, however many trials they hold.
 * Source: randomisation by sign, as Young 2019, Q. J. Econ. 134; score of a binary outcome, as Cochran 1954, Biometrics 10.
 */
export function splitByTrips(rows: SplitRow[]): number {
  const n = rows.length;
  const inside = rows.filter((r) => r.inside).length / n;
  const yes = rows.filter((r) => r.yes).length / n;
  const byTrip = new Map<number, number>();
  for (const r of rows) byTrip.set(r.trip, (byTrip.get(r.trip) ?? 0) + (Number(r.inside) - inside) * (Number(r.yes) - yes));
  const scores = [...byTrip.values()].filter((s) => Math.abs(s) > 1e-12);
  if (scores.length < 2) return 1;
  const found = Math.abs(scores.reduce((a, b) => a + b, 0)) - 1e-9;
  const asGreat = (sign: (k: number) => boolean): boolean => Math.abs(scores.reduce((sum, s, k) => sum + (sign(k) ? s : -s), 0)) >= found;
  let count = 0;
  if (scores.length <= MOST_COUNTED) {
    const all = 2 ** scores.length;
    for (let signs = 0; signs < all; signs++) if (asGreat((k) => ((signs >> k) & 1) === 1)) count++;
    return count / all;
  }
  const random = seeded(1);
  for (let d = 0; d < DRAWS; d++) if (asGreat(() => random() < 0.5)) count++;
  return (count + 1) / (DRAWS + 1);
}
