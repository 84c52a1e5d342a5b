import { seeded } from './random';

/** One look for a selection analysis: the trip it belongs to, its class, its effort and the targets seen in it. */
export interface ClassedLook {
  trip: number;
  class: number;
  effort: number;
  used: number;
}

export interface SelectionClass {
  class: number;
  looks: number;
  trips: number;
  effort: number;
  used: number;
  /** Targets expected here if the fish cared for nothing, given where each trip looked. */
  expected: number;
  /** Manly's ratio used/expected: 1 = as chance would give. NaN where nothing was expected. */
  ratio: number;
  /** Jacobs' D: −1 avoided … 0 … 1 sought. */
  jacobs: number;
  low: number;
  high: number;
  /** Targets a hectare (scan looks) or an hour (fish looks), by the effort unit given. */
  rate: number;
}

export interface SelectionOptions {
  classes: number;
  /** Share of the interval, 0.9 by default. */
  interval?: number;
  resamples?: number;
  seed?: number;
}

/** Used/available, Manly et al. 2002 (w_i). */
export const manlyRatio = (used: number, usedTotal: number, available: number, availableTotal: number): number =>
  used / usedTotal / (available / availableTotal);

/** Jacobs' index D = (r − p)/(r + p − 2rp), r share used, p share available. Jacobs 1974, Oecologia 14. */
export const jacobsIndex = (r: number, p: number): number => (r + p - 2 * r * p === 0 ? 0 : (r - p) / (r + p - 2 * r * p));

interface TripTally {
  used: Float64Array;
  expected: Float64Array;
}

/**
 * Selection of classes by the fish, against where the boat looked. Availability is taken within each trip (a class
 * looked at in one season says nothing of another), and the interval is found by resampling whole trips.
 * Effort-free looks count as neither used nor available.
 */
export function selection(looks: ClassedLook[], options: SelectionOptions): SelectionClass[] {
  const k = options.classes;
  const byTrip = new Map<number, ClassedLook[]>();
  for (const look of looks) {
    if (!(look.effort > 0)) continue;
    const list = byTrip.get(look.trip);
    if (list) list.push(look);
    else byTrip.set(look.trip, [look]);
  }
  const tallies: TripTally[] = [];
  const out: SelectionClass[] = Array.from({ length: k }, (_, c) => ({
    class: c,
    looks: 0,
    trips: 0,
    effort: 0,
    used: 0,
    expected: 0,
    ratio: NaN,
    jacobs: NaN,
    low: NaN,
    high: NaN,
    rate: NaN,
  }));
  for (const trip of byTrip.values()) {
    const used = new Float64Array(k);
    const effort = new Float64Array(k);
    for (const look of trip) {
      used[look.class] += look.used;
      effort[look.class] += look.effort;
      out[look.class].looks++;
    }
    const usedTotal = used.reduce((a, b) => a + b, 0);
    const effortTotal = effort.reduce((a, b) => a + b, 0);
    const expected = effort.map((e) => (usedTotal * e) / effortTotal);
    for (let c = 0; c < k; c++) {
      out[c].effort += effort[c];
      if (effort[c] > 0) out[c].trips++;
    }
    tallies.push({ used, expected });
  }
  const total = sum(tallies, k);
  const usedTotal = total.used.reduce((a, b) => a + b, 0);
  for (const row of out) {
    row.used = total.used[row.class];
    row.expected = total.expected[row.class];
    row.rate = row.effort > 0 ? row.used / row.effort : NaN;
    if (row.expected > 0) {
      row.ratio = row.used / row.expected;
      row.jacobs = jacobsIndex(row.used / usedTotal, row.expected / usedTotal);
    }
  }
  intervals(out, tallies, k, options);
  return out;
}

function sum(tallies: TripTally[], k: number): TripTally {
  const total = { used: new Float64Array(k), expected: new Float64Array(k) };
  for (const t of tallies)
    for (let c = 0; c < k; c++) {
      total.used[c] += t.used[c];
      total.expected[c] += t.expected[c];
    }
  return total;
}

function intervals(
  out: SelectionClass[],
  tallies: TripTally[],
  k: number,
  { interval = 0.9, resamples = 400, seed = 1 }: SelectionOptions,
): void {
  if (tallies.length < 3) return;
  const random = seeded(seed);
  const draws: number[][] = Array.from({ length: k }, () => []);
  for (let b = 0; b < resamples; b++) {
    const total = sum(
      Array.from(tallies, () => tallies[Math.floor(random() * tallies.length)]),
      k,
    );
    for (let c = 0; c < k; c++) if (total.expected[c] > 0) draws[c].push(total.used[c] / total.expected[c]);
  }
  for (const row of out) {
    const d = draws[row.class].sort((a, b) => a - b);
    if (d.length < resamples / 2) continue;
    row.low = d[Math.floor(((1 - interval) / 2) * (d.length - 1))];
    row.high = d[Math.ceil((1 - (1 - interval) / 2) * (d.length - 1))];
  }
}
