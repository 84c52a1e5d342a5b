import { seeded } from '../numbers';
import type { CovariateValues } from './covariates';
import type { Selected } from './question';

/** Share of the contacts that a depth window holds. */
export const WINDOW_SHARE = 0.7;
/** Contacts below which no window of a day is spoken of. */
export const LEAST_IN_WINDOW = 6;

/** The shortest interval of depth that holds most of a day's contacts. */
export interface DepthInterval {
  top: number;
  bottom: number;
  /** 80 % intervals of its edges, by drawing the contacts again. */
  topRange: [number, number];
  bottomRange: [number, number];
  /** Chance that as many contacts spread over where the boat looked would lie as close together. */
  chance: number;
}

/** One trip's windows. */
export interface DayWindow {
  trip: number;
  at: number;
  contacts: number;
  /** Where the boat looked: depths of the bottom between which the middle 90 % of the scanned area lies. */
  looked: [number, number];
  surface: number;
  thermocline: number | null;
  /** By the depth of the bottom under the contacts, and by their own depth; null with too few. */
  byBottom: DepthInterval | null;
  byTarget: DepthInterval | null;
}

/** The shortest interval that holds a share of the weight. @param points values with weights @returns null when there are none */
export function shortestInterval(points: [value: number, weight: number][], share = WINDOW_SHARE): [low: number, high: number] | null {
  if (!points.length) return null;
  const at = shortest(
    Float64Array.from(points, (p) => p[0]),
    Float64Array.from(points, (p) => p[1]),
    share,
  );
  return [at.low, at.high];
}

/** The same for lists, which are put in order: a day's contacts are few, and drawn many times. */
function shortest(values: Float64Array, weights: Float64Array, share = WINDOW_SHARE): { low: number; high: number } {
  const n = values.length;
  let need = -1e-9;
  for (let i = 0; i < n; i++) {
    const [v, w] = [values[i], weights[i]];
    need += share * w;
    let k = i - 1;
    for (; k >= 0 && values[k] > v; k--) {
      values[k + 1] = values[k];
      weights[k + 1] = weights[k];
    }
    values[k + 1] = v;
    weights[k + 1] = w;
  }
  let [low, high] = [values[0], values[n - 1]];
  let [inside, first] = [0, 0];
  for (let i = 0; i < n; i++) {
    inside += weights[i];
    while (first < i && inside - weights[first] >= need) inside -= weights[first++];
    if (inside >= need && values[i] - values[first] < high - low) [low, high] = [values[first], values[i]];
  }
  return { low, high };
}

/** Values drawn in proportion to their weights. */
function drawer(values: ArrayLike<number>, weights: ArrayLike<number>, random: () => number): () => number {
  const running = new Float64Array(values.length);
  let sum = 0;
  for (let i = 0; i < values.length; i++) running[i] = sum += weights[i];
  return () => {
    const at = random() * sum;
    let [low, high] = [0, running.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (running[middle] < at) low = middle + 1;
      else high = middle;
    }
    return values[low];
  };
}

const quantile = (sorted: number[], q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(q * (sorted.length - 1))))];

function windowOf(points: [number, number][], byChance: () => number, random: () => number, draws: number): DepthInterval | null {
  if (points.length < LEAST_IN_WINDOW) return null;
  const found = shortestInterval(points)!;
  const [tops, bottoms]: [number[], number[]] = [[], []];
  const [values, weights] = [new Float64Array(points.length), new Float64Array(points.length)];
  let asClose = 0;
  for (let b = 0; b < draws; b++) {
    for (let i = 0; i < points.length; i++) [values[i], weights[i]] = points[Math.floor(random() * points.length)];
    const again = shortest(values, weights);
    tops.push(again.low);
    bottoms.push(again.high);
    for (let i = 0; i < points.length; i++) [values[i], weights[i]] = [byChance(), points[i][1]];
    const chance = shortest(values, weights);
    if (chance.high - chance.low <= found[1] - found[0] + 1e-9) asClose++;
  }
  tops.sort((x, y) => x - y);
  bottoms.sort((x, y) => x - y);
  return {
    top: found[0],
    bottom: found[1],
    topRange: [quantile(tops, 0.1), quantile(tops, 0.9)],
    bottomRange: [quantile(bottoms, 0.1), quantile(bottoms, 0.9)],
    chance: (asClose + 1) / (draws + 1),
  };
}

/**
 * The depth windows of each trip: the shortest interval with 70 % of the contacts, each weighed by how little of the
 * water its look shows (so that what is hard to see counts for those not seen), by the depth of the bottom and by
 * their own; with how often as many contacts, dealt to where the boat looked, would lie as close together. By their
 * own depth, chance hangs them anywhere between surface and bottom.
 * @param options.most the newest so many trips that saw anything asked for
 */
export function dayWindows(selected: Selected, values: CovariateValues, { draws = 60, seed = 1, max = Infinity } = {}): DayWindow[] {
  const { table, scans, effort, targets } = selected;
  const depth = values.of('depth');
  const shown = new Float64Array(table.count);
  for (let k = 0; k < scans.length; k++) shown[scans[k]] = effort[k] > 0 ? table.effort[scans[k]] / effort[k] : 1;
  const contacts = new Map<number, typeof targets>();
  const counted = new Uint8Array(table.distinct);
  for (const t of targets) {
    if (!shown[t.look] || counted[t.number]) continue;
    counted[t.number] = 1;
    const list = contacts.get(table.trip[t.look]);
    if (list) list.push(t);
    else contacts.set(table.trip[t.look], [t]);
  }
  const newest = [...contacts.keys()].sort((x, y) => x - y).slice(-max);
  const gathered = newest.map((trip) => [trip, { looks: [] as number[], weights: [] as number[] }] as const);
  const numberOf = new Int32Array(table.trips.length).fill(-1);
  newest.forEach((trip, n) => (numberOf[trip] = n));
  for (let k = 0; k < scans.length; k++) {
    const n = numberOf[table.trip[scans[k]]];
    if (n < 0) continue;
    gathered[n][1].looks.push(scans[k]);
    gathered[n][1].weights.push(effort[k]);
  }
  return gathered.map(([trip, { looks, weights }]) => {
    const random = seeded(seed + trip);
    const seen = contacts.get(trip) ?? [];
    const bottoms = looks.map((i) => depth[i]);
    const draw = drawer(bottoms, weights, random);
    const order = bottoms.map((d, k) => [d, weights[k]] as [number, number]).sort((a, b) => a[0] - b[0]);
    const sum = weights.reduce((a, b) => a + b, 0);
    const at = (q: number): number => {
      let run = 0;
      for (const [d, w] of order) if ((run += w) >= q * sum) return d;
      return order[order.length - 1][0];
    };
    const own = seen.flatMap((t): [number, number][] => (t.top == null ? [] : [[(t.top + (t.bottom ?? t.top)) / 2, shown[t.look]]]));
    const moment = table.moment[looks[0]];
    return {
      trip,
      at: table.from[looks[0]],
      contacts: seen.length,
      looked: [at(0.05), at(0.95)] as [number, number],
      surface: moment.day.conditions.surface,
      thermocline: moment.day.column.thermocline?.depth ?? null,
      byBottom: windowOf(
        seen.map((t) => [depth[t.look], shown[t.look]]),
        draw,
        random,
        draws,
      ),
      byTarget: windowOf(own, () => draw() * random(), random, draws),
    };
  });
}
