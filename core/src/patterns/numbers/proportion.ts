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

const lnFactorials: number[] = [0];
function lnFactorial(n: number): number {
  for (let k = lnFactorials.length; k <= n; k++) lnFactorials.push(lnFactorials[k - 1] + Math.log(k));
  return lnFactorials[n];
}

/**
 * Fisher's exact test of a table of two by two, both sides: the chance of a table as unlikely as this one, margins
 * given. Source: Fisher 1934, Statistical Methods for Research Workers, 5th ed.
 */
export function fisherExact(a: number, b: number, c: number, d: number): number {
  const chance = (x: number): number =>
    Math.exp(
      lnFactorial(a + b) +
        lnFactorial(c + d) +
        lnFactorial(a + c) +
        lnFactorial(b + d) -
        lnFactorial(a + b + c + d) -
        lnFactorial(x) -
        lnFactorial(a + b - x) -
        lnFactorial(a + c - x) -
        lnFactorial(d - a + x),
    );
  const seen = chance(a) * (1 + 1e-7);
  let sum = 0;
  for (let x = Math.max(0, a - d); x <= Math.min(a + b, a + c); x++) {
    const p = chance(x);
    if (p <= seen) sum += p;
  }
  return Math.min(1, sum);
}
