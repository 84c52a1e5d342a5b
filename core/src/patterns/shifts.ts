import { clusterVariance, type Clusters } from '../numbers';

/** Looks with what they saw. */
export interface ShiftedLooks {
  used: ArrayLike<number>;
  effort: ArrayLike<number>;
  clusters: Clusters;
}

/**
 * Draws of a log in which the fish care for nothing: the sightings of each trip are shifted together along what the boat
 * looked at, round its end to the beginning, so that schools stay schools and the boat's way stays its way.
 * Source: random shifts, Lotwick & Silverman 1982, J. R. Stat. Soc. B 44.
 * @param keep whether a look is counted at all
 * @returns a draw: calls back with each look that then saw something, and how much
 */
export function shifts(
  { used, effort, clusters }: ShiftedLooks,
  random: () => number,
  keep: (look: number) => boolean = () => true,
): (visit: (look: number, count: number) => void) => void {
  interface Way {
    upTo: number[];
    looks: number[];
    fish: [at: number, count: number][];
  }
  const ways = Array.from({ length: clusters.trips }, (): Way => ({ upTo: [], looks: [], fish: [] }));
  for (let i = 0; i < used.length; i++) {
    if (!(effort[i] > 0) || !keep(i)) continue;
    const way = ways[clusters.trip[i]];
    const from = way.upTo.at(-1) ?? 0;
    if (used[i]) way.fish.push([from + effort[i] / 2, used[i]]);
    way.upTo.push(from + effort[i]);
    way.looks.push(i);
  }
  const fished = ways.filter((w) => w.fish.length);
  return (visit) => {
    for (const { upTo, looks, fish } of fished) {
      const length = upTo[upTo.length - 1];
      const by = random() * length;
      for (const [at, count] of fish) {
        const to = (at + by) % length;
        let [a, b] = [0, upTo.length - 1];
        while (a < b) {
          const middle = (a + b) >> 1;
          if (upTo[middle] > to) b = middle;
          else a = middle + 1;
        }
        visit(looks[a], count);
      }
    }
  };
}

/**
 * How far a count departs from what was to be expected, as a difference of square roots: few sightings skew it less
 * (Anscombe 1948, Biometrika 35).
 */
export const departure = (count: number, expected: number): number => Math.sqrt(Math.max(0, count) + 0.375) - Math.sqrt(expected + 0.375);

/**
 * How much more the number of sightings inside something varies when places are alike over the trips than when trips
 * alone are, as a ratio of variances: 1 or more. Places that have fish on many trips make a departure count for less;
 * what the departure itself does to places is taken off first, by the ratio that was found.
 * @param inside for each of some divisions 1 for looks inside, 0 outside, below 0 where not known
 * @returns the middle one of all divisions: each alone is told by few places
 */
export function persistence(looks: ShiftedLooks, inside: ArrayLike<number>[]): number {
  const ratios = inside.map((i) => persistenceOf(looks, i)).sort((a, b) => a - b);
  return Math.max(1, ratios[Math.floor(ratios.length / 2)] ?? 1);
}

function persistenceOf({ used, effort, clusters }: ShiftedLooks, inside: ArrayLike<number>): number {
  const { trips, pairs, pair, tripOf } = clusters;
  const [u, e] = [0, 1].map(() => [new Float64Array(pairs), new Float64Array(pairs)]);
  for (let i = 0; i < used.length; i++) {
    if (inside[i] < 0 || !(effort[i] > 0)) continue;
    u[inside[i]][pair[i]] += used[i];
    e[inside[i]][pair[i]] += effort[i];
  }
  const byTrip = (list: Float64Array): Float64Array => {
    const out = new Float64Array(trips);
    for (let b = 0; b < pairs; b++) out[tripOf[b]] += list[b];
    return out;
  };
  const [u0, u1, e0, e1] = [u[0], u[1], e[0], e[1]].map(byTrip);
  // Mantel and Haenszel's ratio within trips: Greenland & Robins 1985.
  let [a, b] = [0.25, 0.25];
  for (let t = 0; t < trips; t++) {
    if (!(e0[t] > 0 && e1[t] > 0)) continue;
    a += (u1[t] * e0[t]) / (e0[t] + e1[t]);
    b += (u0[t] * e1[t]) / (e0[t] + e1[t]);
  }
  const ratio = a / b;
  const scores = new Float64Array(pairs);
  for (let p = 0; p < pairs; p++) {
    const t = tripOf[p];
    if (!(e0[t] > 0 && e1[t] > 0)) continue;
    const rate = (u0[t] + u1[t]) / (ratio * e1[t] + e0[t]);
    const share = (ratio * e1[t]) / (ratio * e1[t] + e0[t]);
    scores[p] = (u[1][p] - ratio * rate * e[1][p]) * (1 - share) - (u[0][p] - rate * e[0][p]) * share;
  }
  const { variance, byTrip: ofTrips } = clusterVariance(scores, clusters);
  return ofTrips > 0 ? variance / ofTrips : 1;
}
