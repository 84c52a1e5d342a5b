import { squaresOf, type Clusters } from './clusters';
import { studentQuantile, studentTail } from './student';

/** How many times more targets were seen, for the same looking on the same trip, where something holds than elsewhere. */
export interface RateRatio {
  /** Rate inside over rate outside (Mantel–Haenszel); where a side is empty it is given a quarter of a target. NaN where nothing can be compared. */
  ratio: number;
  low: number;
  high: number;
  /** Standard error of the logarithm of the ratio. */
  error: number;
  /** Chance of a difference as great from nothing; 1 where there is too little to tell. */
  p: number;
  /** Degrees of freedom: trips or places, whichever fewer, that carry the error, less one. */
  df: number;
  used: [inside: number, outside: number];
  effort: [inside: number, outside: number];
  looks: [inside: number, outside: number];
  /** Strata (trips) that looked at both, and places inside. */
  trips: number;
  places: number;
}

/** Rows in groups that are alike, and what is compared within. */
interface Units {
  stratum: Int32Array;
  trip: Int32Array;
  place: Int32Array;
  /** Unit of each row. */
  of: Int32Array;
}

function unitsOf({ trip, place, pair, pairs, tripOf, placeOf }: Clusters, strata?: { of: Int32Array }): Units {
  if (!strata) return { stratum: tripOf, trip: tripOf, place: placeOf, of: pair };
  const numbers = new Map<number, number>();
  const [st, tr, pl]: [number[], number[], number[]] = [[], [], []];
  const of = Int32Array.from(pair, (b, i) => {
    const key = strata.of[i] * pairs + b;
    let n = numbers.get(key);
    if (n === undefined) {
      numbers.set(key, (n = numbers.size));
      st.push(strata.of[i]);
      tr.push(trip[i]);
      pl.push(place[i]);
    }
    return n;
  });
  return { stratum: Int32Array.from(st), trip: Int32Array.from(tr), place: Int32Array.from(pl), of };
}

/**
 * The rate inside against the rate outside, compared within each trip (Mantel–Haenszel for person-time: Greenland &
 * Robins 1985, Biometrics 41), with a variance for looks that are alike within a trip and within a place (Cameron,
 * Gelbach & Miller 2011), and Student's t for the few trips or places that carry it (as many as the squared sum of
 * their squares over the sum of their fourth powers). Made for trying thousands of divisions of the same looks.
 */
export class WithinTrips {
  private readonly units: Units;
  private readonly usedOf: Float64Array;
  private readonly effortOf: Float64Array;
  private readonly stratumUsed: Float64Array;
  private readonly stratumEffort: Float64Array;
  private readonly total: { used: number; effort: number; looks: number };

  /** @param strata what is compared within instead of the trips */
  constructor(
    private readonly used: ArrayLike<number>,
    private readonly effort: ArrayLike<number>,
    private readonly clusters: Clusters,
    strata?: { of: Int32Array; count: number },
  ) {
    this.units = unitsOf(clusters, strata);
    const { stratum, of } = this.units;
    this.stratumUsed = new Float64Array(strata?.count ?? clusters.trips);
    this.stratumEffort = new Float64Array(this.stratumUsed.length);
    this.usedOf = new Float64Array(stratum.length);
    this.effortOf = new Float64Array(stratum.length);
    this.total = { used: 0, effort: 0, looks: 0 };
    for (let i = 0; i < of.length; i++) {
      if (!(effort[i] > 0)) continue;
      this.total.used += used[i];
      this.total.effort += effort[i];
      this.total.looks++;
      this.usedOf[of[i]] += used[i];
      this.effortOf[of[i]] += effort[i];
    }
    stratum.forEach((s, k) => {
      this.stratumUsed[s] += this.usedOf[k];
      this.stratumEffort[s] += this.effortOf[k];
    });
  }

  /** @param inside 1 for each look inside, 0 outside */
  divide(inside: ArrayLike<number>, interval = 0.8): RateRatio {
    const { stratum, trip, place, of } = this.units;
    const [usedIn, effortIn] = [new Float64Array(stratum.length), new Float64Array(stratum.length)];
    let [usedAll, effortAll, looksIn] = [0, 0, 0];
    for (let i = 0; i < of.length; i++) {
      if (!inside[i] || !(this.effort[i] > 0)) continue;
      usedIn[of[i]] += this.used[i];
      effortIn[of[i]] += this.effort[i];
      usedAll += this.used[i];
      effortAll += this.effort[i];
      looksIn++;
    }
    const { total } = this;
    const out: RateRatio = {
      ratio: NaN,
      low: NaN,
      high: NaN,
      error: NaN,
      p: 1,
      df: 0,
      used: [usedAll, total.used - usedAll],
      effort: [effortAll, total.effort - effortAll],
      looks: [looksIn, total.looks - looksIn],
      trips: 0,
      places: 0,
    };
    const [u1, e1] = [new Float64Array(this.stratumUsed.length), new Float64Array(this.stratumUsed.length)];
    for (let k = 0; k < stratum.length; k++) {
      u1[stratum[k]] += usedIn[k];
      e1[stratum[k]] += effortIn[k];
    }
    let [a, b] = [0, 0];
    for (let s = 0; s < e1.length; s++) {
      const e0 = this.stratumEffort[s] - e1[s];
      if (!(e1[s] > 0 && e0 > 1e-12)) continue;
      out.trips++;
      a += (u1[s] * e0) / this.stratumEffort[s];
      b += ((this.stratumUsed[s] - u1[s]) * e1[s]) / this.stratumEffort[s];
    }
    if (!(a + b > 0)) return out;
    if (!(a > 0 && b > 0)) [a, b] = [a + 0.25, b + 0.25];
    out.ratio = a / b;
    const byTrip = new Float64Array(this.clusters.trips);
    const byPlace = new Float64Array(this.clusters.places);
    const seen = new Uint8Array(byPlace.length);
    let squares = 0;
    for (let k = 0; k < stratum.length; k++) {
      const s = stratum[k];
      const e0 = this.stratumEffort[s] - e1[s];
      if (!(e1[s] > 0 && e0 > 1e-12)) continue;
      const share = e1[s] / this.stratumEffort[s];
      const rate = this.stratumUsed[s] / (out.ratio * e1[s] + e0);
      const score =
        ((usedIn[k] - out.ratio * rate * effortIn[k]) * (1 - share)) / a -
        ((this.usedOf[k] - usedIn[k] - rate * (this.effortOf[k] - effortIn[k])) * share) / b;
      squares += score * score;
      byTrip[trip[k]] += score;
      byPlace[place[k]] += score;
      if (effortIn[k] > 0 && !seen[place[k]]) {
        seen[place[k]] = 1;
        out.places++;
      }
    }
    const [ofTrips, tripsCarry] = squaresOf(byTrip);
    const [ofPlaces, placesCarry] = squaresOf(byPlace);
    out.error = Math.sqrt(Math.max(ofTrips / 2, ofPlaces / 2, ofTrips + ofPlaces - squares));
    // Two trips that carry as much as each other are two, whichever way their squares were rounded.
    out.df = Number((Math.min(tripsCarry, placesCarry) - 1).toFixed(9));
    if (!(out.error > 0) || out.df < 1) return out;
    out.p = studentTail(Math.log(out.ratio) / out.error, out.df);
    const t = studentQuantile((1 + interval) / 2, out.df);
    [out.low, out.high] = [out.ratio * Math.exp(-t * out.error), out.ratio * Math.exp(t * out.error)];
    return out;
  }
}

/** One division of some looks; see `WithinTrips`. */
export const rateRatio = (
  used: ArrayLike<number>,
  effort: ArrayLike<number>,
  inside: ArrayLike<number>,
  clusters: Clusters,
  options: { interval?: number; strata?: { of: Int32Array; count: number } } = {},
): RateRatio => new WithinTrips(used, effort, clusters, options.strata).divide(inside, options.interval);
