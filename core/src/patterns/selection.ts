import { clusterVariance, normalQuantile, seeded, squaresOf, studentQuantile, type Clusters } from '../numbers';

/** Looks with their class: targets seen, effort, class (−1 = not known), trip and place. */
export interface ClassedLooks {
  used: ArrayLike<number>;
  effort: ArrayLike<number>;
  classes: ArrayLike<number>;
  clusters: Clusters;
}

export interface SelectionClass {
  class: number;
  looks: number;
  trips: number;
  effort: number;
  used: number;
  /** Targets expected here if the fish cared for nothing, given where the boat looked. */
  expected: number;
  /** Manly's ratio used/expected: 1 = as expected if fish ignored it. NaN where nothing was expected. */
  ratio: number;
  /** Jacobs' D: −1 avoided … 0 … 1 sought. */
  jacobs: number;
  /** Interval of the ratio; NaN with too few trips. */
  low: number;
  high: number;
  /** Targets a unit of effort: a hectare scanned. */
  rate: number;
}

export interface SelectionOptions {
  classes: number;
  /** What is available is counted within each trip, or, for what a whole trip shares, over all of the log. */
  within?: 'trip' | 'log';
  /** Share of the interval, 0.8 by default. */
  interval?: number;
  resamples?: number;
  seed?: number;
  /** Weight of class b in the neighbourhood of class a, at a·classes + b; without it each class stands for itself. */
  kernel?: Float64Array;
}

/** The share of all intervals of the patterns. */
export const INTERVAL = 0.8;
/** Trips below which no interval is given. */
export const LEAST_TRIPS = 4;

/** Used/available, Manly et al. 2002 (w_i). */
export const manlyRatio = (used: number, usedTotal: number, available: number, availableTotal: number): number =>
  used / usedTotal / (available / availableTotal);

/** Jacobs' index D = (r − p)/(r + p − 2rp), r share used, p share available. Jacobs 1974, Oecologia 14. */
export const jacobsIndex = (r: number, p: number): number => (r + p - 2 * r * p === 0 ? 0 : (r - p) / (r + p - 2 * r * p));

/** Used and effort by trip and class, trip by trip; looks without class or effort left out. */
export function tally(
  { used, effort, classes, clusters }: ClassedLooks,
  k: number,
): { used: Float64Array; effort: Float64Array; looks: Int32Array } {
  const out = { used: new Float64Array(clusters.trips * k), effort: new Float64Array(clusters.trips * k), looks: new Int32Array(k) };
  for (let i = 0; i < used.length; i++) {
    const c = classes[i];
    if (c < 0 || !(effort[i] > 0)) continue;
    out.used[clusters.trip[i] * k + c] += used[i];
    out.effort[clusters.trip[i] * k + c] += effort[i];
    out.looks[c]++;
  }
  return out;
}

/** What each trip would have seen in each class had the fish cared for nothing. */
export function expectedWithin(used: Float64Array, effort: Float64Array, trips: number, k: number): Float64Array {
  const out = new Float64Array(trips * k);
  for (let t = 0; t < trips; t++) {
    let [u, e] = [0, 0];
    for (let c = t * k; c < (t + 1) * k; c++) {
      u += used[c];
      e += effort[c];
    }
    if (e > 0) for (let c = t * k; c < (t + 1) * k; c++) out[c] = (u * effort[c]) / e;
  }
  return out;
}

/** Sums over trips (those listed, as often as listed) of a trip-by-class table. */
export function overTrips(table: Float64Array, k: number, trips: ArrayLike<number>): Float64Array {
  const out = new Float64Array(k);
  for (let n = 0; n < trips.length; n++) for (let c = 0, at = trips[n] * k; c < k; c++, at++) out[c] += table[at];
  return out;
}

/** Sums over each class's neighbourhood. */
function round(list: Float64Array, kernel?: Float64Array): Float64Array {
  if (!kernel) return list;
  const k = list.length;
  const out = new Float64Array(k);
  for (let a = 0; a < k; a++) for (let b = 0; b < k; b++) out[a] += kernel[a * k + b] * list[b];
  return out;
}

const total = (list: Float64Array): number => list.reduce((a, b) => a + b, 0);

/**
 * Selection of classes by the fish, against where the boat looked. Availability is taken within each trip (a class
 * looked at in one season says nothing of another), and the interval is found by resampling whole trips; where the
 * looks of one place are alike beyond that, it is widened by as much.
 * @returns one row a class, also for those never looked at
 */
export function selection(looks: ClassedLooks, options: SelectionOptions): SelectionClass[] {
  const { classes: k, within = 'trip', kernel } = options;
  const { trips } = looks.clusters;
  const { used, effort, looks: counts } = tally(looks, k);
  const all = Array.from({ length: trips }, (_, t) => t);
  const spread = within === 'trip' ? expectedWithin(used, effort, trips, k) : effort;
  const usedIn = overTrips(used, k, all);
  const available = overTrips(spread, k, all);
  const effortIn = round(overTrips(effort, k, all), kernel);
  const [usedTotal, availableTotal] = [total(usedIn), total(available)];
  const usedRound = round(usedIn, kernel);
  const expectedIn = round(
    available.map((v) => (availableTotal > 0 ? (v * usedTotal) / availableTotal : 0)),
    kernel,
  );
  const rows = Array.from({ length: k }, (_, c): SelectionClass => {
    const known = expectedIn[c] > 0;
    return {
      class: c,
      looks: counts[c],
      trips: all.filter((t) => effort[t * k + c] > 0).length,
      effort: effortIn[c],
      used: usedRound[c],
      expected: expectedIn[c],
      ratio: known ? usedRound[c] / expectedIn[c] : NaN,
      jacobs: known ? jacobsIndex(usedRound[c] / usedTotal, expectedIn[c] / usedTotal) : NaN,
      low: NaN,
      high: NaN,
      rate: effortIn[c] > 0 ? usedRound[c] / effortIn[c] : NaN,
    };
  });
  intervals(rows, looks, { used, spread, effort }, options);
  return rows;
}

/**
 * For one class: how much wider places make its interval than trips alone, as a ratio of standard errors, and how
 * many trips carry it.
 */
function widener(looks: ClassedLooks, rows: SelectionClass[], effort: Float64Array, used: Float64Array, kernel?: Float64Array) {
  const k = rows.length;
  const { trips, trip } = looks.clusters;
  const [u, e, weighed] = [new Float64Array(trips), new Float64Array(trips), new Float64Array(trips)];
  for (let t = 0; t < trips; t++)
    for (let c = 0; c < k; c++) {
      u[t] += used[t * k + c];
      e[t] += effort[t * k + c];
      weighed[t] += effort[t * k + c] * (rows[c].ratio || 0);
    }
  // What is left of each look when the ratios found are taken for true, gathered by pair of trip and place and by class.
  const ratios = Float64Array.from(rows, (r) => r.ratio || 0);
  const { pair: pairOf, pairs, tripOf } = looks.clusters;
  const at = new Int32Array(pairs * k).fill(-1);
  const [pair, ofClass, left]: [number[], number[], number[]] = [[], [], []];
  for (let i = 0; i < looks.used.length; i++) {
    const c = looks.classes[i];
    const t = trip[i];
    if (c < 0 || !(looks.effort[i] > 0)) continue;
    const key = pairOf[i] * k + c;
    if (at[key] < 0) {
      at[key] = left.length;
      pair.push(pairOf[i]);
      ofClass.push(c);
      left.push(0);
    }
    left[at[key]] += looks.used[i] - (weighed[t] > 0 ? (looks.effort[i] * ratios[c] * u[t]) / weighed[t] : 0);
  }
  const scores = new Float64Array(pairs);
  const share = new Float64Array(trips);
  return (row: SelectionClass): { factor: number; carry: number } => {
    const weights = new Float64Array(k);
    if (kernel) weights.set(kernel.subarray(row.class * k, (row.class + 1) * k));
    else weights[row.class] = 1;
    for (let t = 0; t < trips; t++) {
      let sum = 0;
      for (let c = 0; c < k; c++) sum += weights[c] * effort[t * k + c];
      share[t] = e[t] > 0 ? sum / e[t] / row.expected : 0;
    }
    const most = Math.max(row.used, 1);
    scores.fill(0);
    for (let n = 0; n < left.length; n++) scores[pair[n]] += left[n] * (weights[ofClass[n]] / most - share[tripOf[pair[n]]]);
    const { variance, byTrip, trips: carry } = clusterVariance(scores, looks.clusters);
    return { factor: byTrip > 0 ? Math.sqrt(variance / byTrip) : 1, carry };
  };
}

/**
 * For a class of what whole trips share: how many trips carry its ratio, and how much resampling so few understates its spread
 * (their variance is n/(n − 1) times that of the resampled).
 */
function tripsThatCarry(
  row: SelectionClass,
  { used, spread, classes }: { used: Float64Array; spread: Float64Array; classes: number },
  kernel?: Float64Array,
): { factor: number; carry: number } {
  const scale = total(used) / total(spread);
  const left = Float64Array.from({ length: used.length / classes }, (_, t) => {
    let sum = 0;
    for (let c = 0; c < classes; c++) {
      const weight = kernel ? kernel[row.class * classes + c] : Number(c === row.class);
      sum += weight * (used[t * classes + c] - row.ratio * scale * spread[t * classes + c]);
    }
    return sum;
  });
  const [, carry] = squaresOf(left);
  return { factor: Math.sqrt(carry / Math.max(1, carry - 1)), carry };
}

function intervals(
  rows: SelectionClass[],
  looks: ClassedLooks,
  { used, spread, effort }: Record<'used' | 'spread' | 'effort', Float64Array>,
  { classes: k, within = 'trip', interval = INTERVAL, resamples, seed = 1, kernel }: SelectionOptions,
): void {
  const { trips } = looks.clusters;
  const spoken = Array.from({ length: trips }, (_, t) => t).filter((t) => {
    for (let c = t * k; c < (t + 1) * k; c++) if (spread[c] > 0) return true;
    return false;
  });
  // Many trips make each draw steadier: fewer will do.
  const draw = resamples ?? Math.min(400, Math.max(80, Math.round(80_000 / spoken.length)));
  if (spoken.length < LEAST_TRIPS || draw < 1) return;
  const random = seeded(seed);
  const draws = rows.map(() => new Float64Array(draw));
  const drawn = new Int32Array(spoken.length);
  for (let b = 0; b < draw; b++) {
    for (let n = 0; n < drawn.length; n++) drawn[n] = spoken[Math.floor(random() * spoken.length)];
    const [plainU, plainS] = [overTrips(used, k, drawn), overTrips(spread, k, drawn)];
    const scale = within === 'trip' ? 1 : total(plainU) / total(plainS);
    const [u, s] = [round(plainU, kernel), round(plainS, kernel)];
    for (let c = 0; c < k; c++) draws[c][b] = s[c] > 0 ? u[c] / (s[c] * scale) : NaN;
  }
  const z = normalQuantile((1 + interval) / 2);
  const widen = widener(looks, rows, effort, used, kernel);
  for (const row of rows) {
    const known = draws[row.class].filter((v) => !Number.isNaN(v)).sort();
    if (known.length < draw / 2 || !(row.expected > 0)) continue;
    // What a whole trip shares cannot be told apart by place: there the trips alone speak, those that carry the class.
    const { factor, carry } = within === 'trip' ? widen(row) : tripsThatCarry(row, { used, spread, classes: k }, kernel);
    if (row.used === 0) {
      // Nothing seen: the most that would still leave it likely.
      [row.low, row.high] = [0, -Math.log((1 - interval) / 2) / row.expected];
      continue;
    }
    const wide = (factor * studentQuantile((1 + interval) / 2, Math.max(2, carry - 1))) / z;
    const at = (q: number): number => known[Math.min(known.length - 1, Math.max(0, Math.round(q * (known.length - 1))))];
    const move = (v: number): number => row.ratio * Math.max(v / row.ratio, 0) ** wide;
    row.low = move(Math.min(at((1 - interval) / 2), row.ratio));
    row.high = move(Math.max(at((1 + interval) / 2), row.ratio));
  }
}
