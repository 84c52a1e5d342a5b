import { seeded } from './numbers';
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
  const sorted = [...points].sort((a, b) => a[0] - b[0]);
  const need = share * sorted.reduce((s, p) => s + p[1], 0) - 1e-9;
  let best: [number, number] | null = null;
  let [inside, first] = [0, 0];
  for (const [value, weight] of sorted) {
    inside += weight;
    while (first < sorted.length && inside - sorted[first][1] >= need) inside -= sorted[first++][1];
    if (inside >= need && (!best || value - sorted[first][0] < best[1] - best[0])) best = [sorted[first][0], value];
  }
  return best;
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
  let asClose = 0;
  for (let b = 0; b < draws; b++) {
    const again = shortestInterval(Array.from(points, () => points[Math.floor(random() * points.length)]))!;
    tops.push(again[0]);
    bottoms.push(again[1]);
    const chance = shortestInterval(points.map(([, weight]) => [byChance(), weight]))!;
    if (chance[1] - chance[0] <= found[1] - found[0] + 1e-9) asClose++;
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
export function dayWindows(selected: Selected, values: CovariateValues, { draws = 200, seed = 1, most = Infinity } = {}): DayWindow[] {
  const { table, scans, effort, targets } = selected;
  const depth = values.of('depth');
  const byTrip = new Map<number, { looks: number[]; weights: number[] }>();
  const shown = new Map<number, number>();
  scans.forEach((i, k) => {
    const trip = byTrip.get(table.trip[i]) ?? { looks: [], weights: [] };
    trip.looks.push(i);
    trip.weights.push(effort[k]);
    byTrip.set(table.trip[i], trip);
    shown.set(i, effort[k] > 0 ? table.effort[i] / effort[k] : 1);
  });
  const contacts = new Map<number, typeof targets>();
  for (const t of targets) {
    if (!shown.has(t.look)) continue;
    const list = contacts.get(table.trip[t.look]) ?? [];
    if (!list.some((o) => o.target === t.target)) list.push(t);
    contacts.set(table.trip[t.look], list);
  }
  return [...byTrip.entries()]
    .filter(([trip]) => contacts.has(trip))
    .sort((a, b) => a[0] - b[0])
    .slice(-most)
    .map(([trip, { looks, weights }]) => {
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
      const own = seen.flatMap((t): [number, number][] => (t.top == null ? [] : [[(t.top + (t.bottom ?? t.top)) / 2, shown.get(t.look)!]]));
      const moment = table.moment[looks[0]];
      return {
        trip,
        at: table.from[looks[0]],
        contacts: seen.length,
        looked: [at(0.05), at(0.95)] as [number, number],
        surface: moment.day.conditions.surface,
        thermocline: moment.day.column.thermocline?.depth ?? null,
        byBottom: windowOf(
          seen.map((t) => [depth[t.look], shown.get(t.look)!]),
          draw,
          random,
          draws,
        ),
        byTarget: windowOf(own, () => draw() * random(), random, draws),
      };
    });
}
