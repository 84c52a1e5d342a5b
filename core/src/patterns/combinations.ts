import { className, covariate, type CovariateValues } from './covariates';
import { falseDiscovery, rateRatio, WithinTrips, type Clusters, type RateRatio } from './numbers';
import { pick, type Selected } from './question';

/** A plain condition on a look: "hard bottom", "timber within 20 m". */
export interface Condition {
  key: string;
  words: string;
  /** Covariate that it speaks of; two conditions on one are never joined. */
  covariate: string;
  /** 1 where it holds, 0 where not, for each look in turn. */
  holds: Uint8Array;
}

/** Conditions that hold together, with what they make of the rate. */
export interface Combination {
  conditions: Pick<Condition, 'key' | 'words' | 'covariate'>[];
  rate: RateRatio;
  /** Share of false ones to expect among all that are at least as striking. */
  falseShare: number;
}

export interface CombinationSearch {
  /** Those that stand, the most striking first. */
  found: Combination[];
  /** How many combinations were tried, each of them corrected for. */
  tried: number;
}

export interface SearchOptions {
  /** Most conditions in one combination. */
  most?: 1 | 2 | 3;
  /** The share of false ones that is put up with. */
  falseShare?: number;
  /** Combinations listed at most. */
  list?: number;
}

/** Runs a search to its end. */
export function finish<T>(steps: Generator<number, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** A combination is tried when it holds at so many looks, on so many trips that looked elsewhere as well. */
export const LEAST_LOOKS = 25;
export const LEAST_COMBINED_TRIPS = 6;
const LEAST_PLACES = 5;
/** The share of false ones put up with. */
const FALSE_SHARE = 0.05;

/**
 * Searches the combinations of one, two and three conditions for those that best tell looks with fish from looks
 * without, within each trip. All that were tried are corrected for (false discovery rate). A pair or a triple is
 * listed only if it is better than each of its parts, and one combination that says the same as a better one is not
 * listed again. A generator, so that who runs it can show how far it is, do other things in between, and leave off.
 * @yields the share done
 */
export function* searchCombinations(
  looks: { used: ArrayLike<number>; effort: ArrayLike<number>; clusters: Clusters },
  conditions: Condition[],
  { most = 3, falseShare = FALSE_SHARE, list = 8 }: SearchOptions = {},
): Generator<number, CombinationSearch> {
  const n = looks.used.length;
  const within = new WithinTrips(looks.used, looks.effort, looks.clusters);
  const tried: { parts: Condition[]; holds: Uint8Array; rate: RateRatio }[] = [];
  const enough = (holds: Uint8Array): boolean => {
    let count = 0;
    for (let i = 0; i < n; i++) count += holds[i];
    return count >= LEAST_LOOKS && n - count >= LEAST_LOOKS;
  };
  const attempt = (parts: Condition[], holds: Uint8Array): boolean => {
    if (!enough(holds)) return false;
    const rate = within.divide(holds);
    if (rate.trips < LEAST_COMBINED_TRIPS || rate.places < LEAST_PLACES) return false;
    tried.push({ parts, holds, rate });
    return true;
  };
  const join = (a: Uint8Array, b: Uint8Array): Uint8Array => {
    const out = new Uint8Array(n);
    for (let i = 0; i < n; i++) if (a[i]) out[i] = b[i];
    return out;
  };
  for (let a = 0; a < conditions.length; a++) {
    if (!attempt([conditions[a]], conditions[a].holds) || most < 2) continue;
    for (let b = a + 1; b < conditions.length; b++) {
      yield (a + (b - a) / (conditions.length - a)) / conditions.length;
      if (conditions[b].covariate === conditions[a].covariate) continue;
      const pair = join(conditions[a].holds, conditions[b].holds);
      if (!attempt([conditions[a], conditions[b]], pair) || most < 3) continue;
      for (let c = b + 1; c < conditions.length; c++) {
        if ([a, b].some((k) => conditions[k].covariate === conditions[c].covariate)) continue;
        attempt([conditions[a], conditions[b], conditions[c]], join(pair, conditions[c].holds));
      }
    }
  }
  const q = falseDiscovery(tried.map((t) => t.rate.p));
  const order = tried
    .map((t, i) => ({ ...t, q: q[i] }))
    .filter((t) => t.q <= falseShare && t.rate.ratio > 1)
    .sort((a, b) => a.rate.p - b.rate.p);
  const found: typeof order = [];
  for (const t of order) {
    if (found.length >= list) break;
    if (t.parts.length > 1 && !addsToParts(looks, t.parts, t.holds)) continue;
    if (found.some((f) => sameLooks(f.holds, t.holds))) continue;
    found.push(t);
  }
  return {
    found: found.map(({ parts, rate, q: share }) => ({
      conditions: parts.map(({ key, words, covariate: of }) => ({ key, words, covariate: of })),
      rate,
      falseShare: share,
    })),
    tried: tried.length,
  };
}

/** Whether the rate where all parts hold is above that where only the rest of each part does: lower end of 80 % over 1. */
function addsToParts(
  looks: { used: ArrayLike<number>; effort: ArrayLike<number>; clusters: Clusters },
  parts: Condition[],
  holds: Uint8Array,
): boolean {
  return parts.every((_, left) => {
    const rest = parts.filter((_part, k) => k !== left);
    const there = Float64Array.from({ length: holds.length }, (_v, i) => (rest.every((p) => p.holds[i]) ? looks.effort[i] : 0));
    return rateRatio(looks.used, there, holds, looks.clusters).low > 1;
  });
}

/** Whether two combinations hold at nearly the same looks. */
function sameLooks(a: Uint8Array, b: Uint8Array): boolean {
  let [both, either] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    both += a[i] & b[i];
    either += a[i] | b[i];
  }
  return both > 0.7 * either;
}

const AS_CONDITIONS: [covariate: string, holds: (v: number) => boolean, words: string][] = [
  ['hardness', (v) => v >= 0.6, 'hard bottom'],
  ['hardness', (v) => v < 0.35, 'soft bottom'],
  ['edge', (v) => v <= 20, 'where hard meets soft within 20 m'],
  ['wood', (v) => v <= 20, 'timber or brush within 20 m'],
  ['weed', (v) => v <= 20, 'weed within 20 m'],
  ['slope', (v) => v >= 10, 'a slope over 10 %'],
  ['position-near', (v) => v >= 0.4, 'a rise over the bottom round it'],
  ['position-wide', (v) => v >= 0.8, 'a hump or point'],
  ['position-wide', (v) => v <= -0.8, 'a channel or hole'],
  ['above-thermocline', (v) => v >= 0 && v <= 2, 'bottom within 2 m above the thermocline'],
  ['above-thermocline', (v) => v < 0, 'bottom below the thermocline'],
  ['blown6', (v) => v >= 0.25, 'the wind-blown side for 6 h'],
  ['blown6', (v) => v <= -0.25, 'the sheltered side for 6 h'],
  ['bait200', (v) => v === 1, 'bait seen earlier within 200 m'],
  ['channel', (v) => v <= 50, 'a channel within 50 m'],
  ['shore', (v) => v <= 40, 'the shore within 40 m'],
  ['deep', (v) => v <= 50, 'deep water within 50 m'],
  ['arm', (v) => v >= 0.34, 'far up an arm'],
  ['sun', (v) => v <= 8, 'a low sun'],
];

/**
 * The conditions that a search of a log tries: fixed ones in the field's words, and the thirds of its bottom depths.
 * A look where a condition's value is not known counts as one where it does not hold.
 */
export function conditionsOf(selected: Selected, values: CovariateValues): Condition[] {
  const { scans } = selected;
  const list: Condition[] = [];
  const add = (key: string, holds: (v: number) => boolean, words: string): void => {
    const of = values.of(key);
    const out = new Uint8Array(scans.length);
    for (let k = 0; k < out.length; k++) if (holds(of[scans[k]])) out[k] = 1;
    list.push({ key: `${key}: ${words}`, words, covariate: key, holds: out });
  };
  const depth = values.of('depth');
  const sorted = pick(depth, scans).sort();
  if (sorted.length) {
    const [third, second] = [1 / 3, 2 / 3].map((q) => Math.round(sorted[Math.floor(q * sorted.length)]));
    add('depth', (v) => v < third, `bottom shallower than ${third} m`);
    if (second > third) add('depth', (v) => v >= third && v < second, `bottom at ${third} to ${second} m`);
    add('depth', (v) => v >= second, `bottom at ${second} m or deeper`);
  }
  for (const [key, holds, words] of AS_CONDITIONS) add(key, holds, words);
  return list;
}

/** One cell of a heat map of two covariates. */
export interface HeatCell {
  /** Classes on either axis. */
  a: number;
  b: number;
  looks: number;
  trips: number;
  used: number;
  /** Targets a hectare, and against all other looks of the same trips. */
  rate: number;
  against: RateRatio;
}

/** Two covariates against each other: the rate in each pair of classes, with the number of looks. */
export function heatMap(
  selected: Selected,
  values: CovariateValues,
  keys: [string, string],
): { cells: HeatCell[]; names: [string[], string[]] } {
  const { scans, used, effort, clusters } = selected;
  const [ca, cb] = keys.map((key) => values.classesOf(key));
  const present = (classes: Int8Array): number[] => {
    const seen = new Uint8Array(128);
    for (let k = 0; k < scans.length; k++) if (classes[scans[k]] >= 0) seen[classes[scans[k]]] = 1;
    return [...seen.keys()].filter((k) => seen[k]);
  };
  const [as, bs] = [present(ca), present(cb)];
  const cells: HeatCell[] = [];
  const within = new WithinTrips(used, effort, clusters);
  const inside = new Uint8Array(scans.length);
  as.forEach((a, x) =>
    bs.forEach((b, y) => {
      const trips = new Uint8Array(clusters.trips);
      for (let k = 0; k < scans.length; k++) {
        inside[k] = ca[scans[k]] === a && cb[scans[k]] === b ? 1 : 0;
        if (inside[k]) trips[clusters.trip[k]] = 1;
      }
      const against = within.divide(inside);
      if (!against.looks[0]) return;
      cells.push({
        a: x,
        b: y,
        looks: against.looks[0],
        trips: trips.reduce((n, v) => n + v, 0),
        used: against.used[0],
        rate: against.used[0] / against.effort[0],
        against,
      });
    }),
  );
  const names = (key: string, list: number[]): string[] => list.map((k) => className(covariate(key), k));
  return { cells, names: [names(keys[0], as), names(keys[1], bs)] };
}
