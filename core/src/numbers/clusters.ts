/** To which trip and which patch of water each row belongs, counted from 0. */
export interface Clusters {
  trip: Int32Array;
  trips: number;
  place: Int32Array;
  places: number;
  /** Which pair of trip and place; and of each pair its trip and its place. */
  pair: Int32Array;
  pairs: number;
  tripOf: Int32Array;
  placeOf: Int32Array;
}

/** Clusters of rows by trip and by place. */
export function makeClusters(trip: Int32Array, trips: number, place: Int32Array, places: number): Clusters {
  const numbers = new Map<number, number>();
  const pair = new Int32Array(trip.length);
  const [tripOf, placeOf]: [number[], number[]] = [[], []];
  let [lastKey, last] = [-1, -1];
  for (let i = 0; i < pair.length; i++) {
    const key = trip[i] * places + place[i];
    // Looks come in the order in which they were made: mostly the pair of the one before.
    if (key !== lastKey) {
      last = numbers.get(key) ?? -1;
      if (last < 0) {
        numbers.set(key, (last = numbers.size));
        tripOf.push(trip[i]);
        placeOf.push(place[i]);
      }
      lastKey = key;
    }
    pair[i] = last;
  }
  return { trip, trips, place, places, pair, pairs: numbers.size, tripOf: Int32Array.from(tripOf), placeOf: Int32Array.from(placeOf) };
}

/**
 * Variance of a sum of scores that are alike within a trip and within a place: the trips' part plus the places' part,
 * less what both count. Never less than half of the trips' part.
 * @param byBoth scores summed for each pair of trip and place, mean near 0
 * @returns the variance, the trips' part of it, and how many trips and places carry it
 * Source: Cameron, Gelbach & Miller 2011, J. Bus. Econ. Stat. 29.
 */
export function clusterVariance(
  byBoth: Float64Array,
  { trips, places, tripOf, placeOf }: Pick<Clusters, 'trips' | 'places' | 'tripOf' | 'placeOf'>,
): { variance: number; trips: number; places: number; byTrip: number } {
  const byTrip = new Float64Array(trips);
  const byPlace = new Float64Array(places);
  for (let b = 0; b < byBoth.length; b++) {
    byTrip[tripOf[b]] += byBoth[b];
    byPlace[placeOf[b]] += byBoth[b];
  }
  const [t, tripsCarry] = squaresOf(byTrip);
  const [p, placesCarry] = squaresOf(byPlace);
  const [b] = squaresOf(byBoth);
  return { variance: Math.max(t / 2, t + p - b), trips: tripsCarry, places: placesCarry, byTrip: t };
}

/** Sum of squares, and how many entries carry it: the squared sum of squares over the sum of fourth powers. */
export function squaresOf(list: Float64Array): [squares: number, carry: number] {
  let [squares, fourths] = [0, 0];
  for (let i = 0; i < list.length; i++) {
    const square = list[i] * list[i];
    squares += square;
    fourths += square * square;
  }
  return [squares, fourths > 0 ? (squares * squares) / fourths : 0];
}
