/** To which trip and which patch of water each row belongs, counted from 0. */
export interface Clusters {
  trip: Int32Array;
  trips: number;
  place: Int32Array;
  places: number;
  /** Which visit of a trip to a place. */
  both: Int32Array;
  boths: number;
}

/** Clusters of rows by trip and by place. */
export function makeClusters(trip: Int32Array, trips: number, place: Int32Array, places: number): Clusters {
  const numbers = new Map<number, number>();
  const both = Int32Array.from(trip, (t, i) => {
    const key = t * places + place[i];
    let n = numbers.get(key);
    if (n === undefined) numbers.set(key, (n = numbers.size));
    return n;
  });
  return { trip, trips, place, places, both, boths: numbers.size };
}

/**
 * Variance of a sum of scores that are alike within a trip and within a place: the trips' part plus the places' part,
 * less what both count. Never less than half of the trips' part.
 * @param scores one a row, mean near 0
 * @returns the variance, and how many trips and places carry it (the inverse of the sum of squared shares)
 * Source: Cameron, Gelbach & Miller 2011, J. Bus. Econ. Stat. 29.
 */
export function clusterVariance(
  scores: Float64Array,
  clusters: Clusters,
): { variance: number; trips: number; places: number; byTrip: number } {
  const { trip, trips, place, places, both, boths } = clusters;
  const byTrip = new Float64Array(trips);
  const byPlace = new Float64Array(places);
  const byBoth = new Float64Array(boths);
  for (let i = 0; i < scores.length; i++) {
    const s = scores[i];
    if (s === 0) continue;
    byTrip[trip[i]] += s;
    byPlace[place[i]] += s;
    byBoth[both[i]] += s;
  }
  const [t, tripsCarry] = squaresOf(byTrip);
  const [p, placesCarry] = squaresOf(byPlace);
  const [b] = squaresOf(byBoth);
  return { variance: Math.max(t / 2, t + p - b), trips: tripsCarry, places: placesCarry, byTrip: t };
}

/** Sum of squares, and how many entries carry it: the squared sum of squares over the sum of fourth powers. */
export function squaresOf(list: Float64Array): [squares: number, carry: number] {
  let [squares, fourths] = [0, 0];
  for (const v of list) {
    squares += v * v;
    fourths += v ** 4;
  }
  return [squares, fourths > 0 ? squares ** 2 / fourths : 0];
}
