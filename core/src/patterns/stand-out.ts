import { seeded } from '../numbers';
import { expectedWithin, overTrips, selection, tally, type ClassedLooks, type SelectionClass } from './selection';
import { departure, persistence, shifts } from './shifts';

/** Classes beside each other: the first and the last. */
export type Span = readonly [from: number, to: number];

/** Classes beside each other that are chosen more than chance would have it. */
export interface StandOut {
  classes: Span;
  /** How many times as often as expected, with its interval. */
  ratio: number;
  low: number;
  high: number;
}

/** One test for a whole question. */
export interface StandOutTest {
  /** What stands out; null where nothing does. */
  run: StandOut | null;
  /** Chance that something stands out as much somewhere though the fish care for nothing. */
  p: number;
  /** How many classes were compared. */
  compared: number;
}

export interface StandOutOptions {
  classes: number;
  within?: 'trip' | 'log';
  /** Whether classes beside each other may be taken together: those of numbers. */
  runs?: boolean;
  draws?: number;
  seed?: number;
}

/** What chance may bring in so many of a hundred questions is not put in words. */
export const HEADLINE_LEVEL = 0.05;
/** Runs in which fewer were to be expected tell nothing. */
const LEAST_EXPECTED = 1;

/**
 * Whether any class, or any run of classes beside each other, is chosen. A headline is put in words only where the whole
 * question passes one test, however many classes it has: the greatest of all departures is held against the greatest in
 * logs of the same trips with the sightings shifted along the boat's way (the maximum of statistics: Westfall & Young
 * 1993; random shifts: Lotwick & Silverman 1982, J. R. Stat. Soc. B 44), so that schools stay schools. What a whole trip
 * shares is compared between trips, whose values are dealt out anew. Departures are of square roots, which few sightings
 * skew less (Anscombe 1948, Biometrika 35). Places that have fish on many trips make a departure count for less.
 */
export function standOut(looks: ClassedLooks, options: StandOutOptions): StandOutTest {
  const { classes: k, within = 'trip', runs = true, seed = 1 } = options;
  const { used, effort } = tally(looks, k);
  const { trips } = looks.clusters;
  const all = Array.from({ length: trips }, (_, t) => t);
  const available = overTrips(effort, k, all);
  const there = Array.from({ length: k }, (_, c) => c).filter((c) => available[c] > 0);
  const none: StandOutTest = { run: null, p: 1, compared: there.length };
  if (there.length < 2) return none;

  const usedIn = overTrips(used, k, all);
  const usedTotal = usedIn.reduce((a, b) => a + b, 0);
  // A long log is drawn less often, which still tells one in twenty.
  const draws = options.draws ?? Math.min(499, Math.max(199, Math.round(5e6 / Math.max(1, usedTotal))));
  const availableTotal = available.reduce((a, b) => a + b, 0);
  if (!usedTotal) return none;
  const expectedIn =
    within === 'trip' ? overTrips(expectedWithin(used, effort, trips, k), k, all) : available.map((e) => (e * usedTotal) / availableTotal);

  const sum = (list: ArrayLike<number>, [from, to]: Span): number => {
    let s = 0;
    for (let c = from; c <= to; c++) s += list[c];
    return s;
  };
  const [first, last] = [there[0], there[there.length - 1]];
  const spans = there
    .flatMap((a) => (runs ? there.filter((c) => c >= a) : [a]).map((b): Span => [a, b]))
    .filter((span) => !(span[0] === first && span[1] === last) && sum(expectedIn, span) >= LEAST_EXPECTED);
  if (!spans.length) return none;
  const apart = (list: ArrayLike<number>, span: Span): number => departure(sum(list, span), sum(expectedIn, span));

  const random = seeded(seed);
  const draw = within === 'trip' ? shifted(looks, k, random) : dealt(used, effort, expectedIn, trips, k, random);
  const drawn = Array.from({ length: draws }, () => {
    const list = draw();
    return Float64Array.from(spans, (span) => apart(list, span));
  });
  const spread = spans.map((_, s) => Math.sqrt(drawn.reduce((v, d) => v + d[s] * d[s], 0) / draws));
  // Told by each class against the rest; runs of them would only say the same once more.
  const lasting =
    within === 'trip'
      ? persistence(
          looks,
          there.map((c) => inside(looks.classes, [c, c])),
        )
      : 1;

  // A run is named by what was found in its first and last class too: one that ends with less says more than it has.
  const chosen = (c: number): boolean => expectedIn[c] >= LEAST_EXPECTED && usedIn[c] > expectedIn[c];
  let best = { s: -1, t: 0 };
  spans.forEach((span, s) => {
    if (!chosen(span[0]) || !chosen(span[1]) || !(spread[s] > 0)) return;
    const t = apart(usedIn, span) / (spread[s] * Math.sqrt(lasting));
    if (t > best.t) best = { s, t };
  });
  if (best.s < 0) return none;
  const asGreat = drawn.filter((d) => spans.some((_, s) => spread[s] > 0 && d[s] / spread[s] >= best.t - 1e-9)).length;
  const p = (asGreat + 1) / (draws + 1);
  if (p > HEADLINE_LEVEL) return { ...none, p };
  const { ratio, low, high } = runAsOne(looks, spans[best.s], within);
  return { ...none, p, run: { classes: spans[best.s], ratio, low, high } };
}

/** Sightings by class when those of each trip are shifted along the boat's way. */
function shifted(looks: ClassedLooks, k: number, random: () => number): () => Float64Array {
  const draw = shifts(looks, random, (i) => looks.classes[i] >= 0);
  return () => {
    const out = new Float64Array(k);
    draw((look, count) => (out[looks.classes[look]] += count));
    return out;
  };
}

/** Sightings by class when the values of the trips are dealt out anew among them. */
function dealt(
  used: Float64Array,
  effort: Float64Array,
  expectedIn: Float64Array,
  trips: number,
  k: number,
  random: () => number,
): () => Float64Array {
  const [u, e] = [new Float64Array(trips), new Float64Array(trips)];
  for (let t = 0; t < trips; t++)
    for (let c = 0; c < k; c++) {
      u[t] += used[t * k + c];
      e[t] += effort[t * k + c];
    }
  const rows = Array.from({ length: trips }, (_, t) => t).filter((t) => e[t] > 0);
  const rate = u.reduce((a, b) => a + b, 0) / e.reduce((a, b) => a + b, 0);
  return () => {
    const order = [...rows];
    for (let i = order.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [order[i], order[j]] = [order[j], order[i]];
    }
    const out = Float64Array.from(expectedIn);
    rows.forEach((t, n) => {
      const from = order[n];
      for (let c = 0; c < k; c++) out[c] += (u[t] - rate * e[t]) * (effort[from * k + c] / e[from]);
    });
    return out;
  };
}

/** Selection of a run of classes as if it were one class. */
function runAsOne(looks: ClassedLooks, span: Span, within: 'trip' | 'log'): SelectionClass {
  return selection({ ...looks, classes: inside(looks.classes, span) }, { classes: 2, within })[1];
}

/** 1 for looks in a span of classes, 0 for others, −1 where the class is not known. */
const inside = (classes: ArrayLike<number>, [from, to]: Span): Int8Array =>
  Int8Array.from({ length: classes.length }, (_, i) => (classes[i] < 0 ? -1 : Number(classes[i] >= from && classes[i] <= to)));
