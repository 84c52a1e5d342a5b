import { statement, type Statement } from '../statements';
import type { CovariateValues } from './covariates';
import { falseDiscovery, rateRatio, seeded, WithinTrips, type Clusters, type RateRatio } from '../numbers';
import { pick, type Selected } from './question';
import { departure, persistence, shifts } from './shifts';

export type ConditionCode =
  | 'condition.hard'
  | 'condition.soft'
  | 'condition.edge'
  | 'condition.timber'
  | 'condition.weed'
  | 'condition.slope'
  | 'condition.rise'
  | 'condition.hump'
  | 'condition.hole'
  | 'condition.above-thermocline'
  | 'condition.below-thermocline'
  | 'condition.blown'
  | 'condition.sheltered'
  | 'condition.bait'
  | 'condition.channel'
  | 'condition.shore'
  | 'condition.deep'
  | 'condition.arm'
  | 'condition.sun'
  | 'condition.depth.under'
  | 'condition.depth'
  | 'condition.depth.over';

/** A plain condition on a look: hard bottom, timber within 20 m. */
export interface Condition {
  key: string;
  says: Statement<ConditionCode>;
  /** Covariate that it speaks of; two conditions on one are never joined. */
  covariate: string;
  /** 1 where it holds, 0 where not, for each look in turn. */
  holds: Uint8Array;
}

/** Conditions that hold together, with what they make of the rate. */
export interface Combination {
  conditions: Pick<Condition, 'key' | 'says' | 'covariate'>[];
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
  max?: 1 | 2 | 3;
  /** The share of false ones that is put up with. */
  falseShare?: number;
  /** Combinations listed at most. */
  list?: number;
}

/** What is searched: scan looks with what they saw. */
type SearchedLooks = { used: ArrayLike<number>; effort: ArrayLike<number>; clusters: Clusters };

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

/** Draws of each test, fewer for a long log: their smallest chance, over as many tests as are made at a time, stays below the share put up with. */
const [MOST_DRAWS, LEAST_DRAWS] = [999, 499];

/** Parts that were tried together, with the chance that nothing lies behind them. */
interface Tried {
  parts: Condition[];
  holds: Uint8Array;
  p: number;
}

/**
 * How often sightings that care for nothing are as much more frequent where each of some conditions holds: one-sided, by
 * shifting them along the boat's way (`shifts`), among those looks alone that `among` says.
 */
function* shiftTests(looks: SearchedLooks, conditions: Condition[], among: Uint8Array | null, seed: number): Generator<void, Float64Array> {
  const { used, effort, clusters } = looks;
  const keep = (i: number): boolean => !among || among[i] === 1;
  const m = conditions.length;
  const [u, e] = [new Float64Array(clusters.trips), new Float64Array(clusters.trips)];
  const [found, expected] = [new Float64Array(m), new Float64Array(m)];
  const inside = Array.from({ length: m }, () => new Float64Array(clusters.trips));
  for (let i = 0; i < used.length; i++) {
    if (!(effort[i] > 0) || !keep(i)) continue;
    const t = clusters.trip[i];
    u[t] += used[i];
    e[t] += effort[i];
    for (let c = 0; c < m; c++) {
      if (!conditions[c].holds[i]) continue;
      found[c] += used[i];
      inside[c][t] += effort[i];
    }
  }
  for (let c = 0; c < m; c++) for (let t = 0; t < u.length; t++) if (e[t] > 0) expected[c] += (u[t] * inside[c][t]) / e[t];
  // Which of up to 32 conditions hold at a look, a bit each: most hold at few.
  const bits = new Uint32Array(used.length);
  for (let c = 0; c < m; c++) for (let i = 0; i < bits.length; i++) if (conditions[c].holds[i]) bits[i] |= 1 << c;
  const draws = Math.min(
    MOST_DRAWS,
    Math.max(
      LEAST_DRAWS,
      Math.round(
        1e7 /
          Math.max(
            1,
            u.reduce((a, b) => a + b, 0),
          ),
      ),
    ),
  );
  const draw = shifts(looks, seeded(seed), keep);
  const drawn = Array.from({ length: m }, () => new Float64Array(draws));
  for (let d = 0; d < draws; d++) {
    const counts = new Float64Array(m);
    draw((look, count) => {
      for (let left = bits[look]; left; left &= left - 1) counts[31 - Math.clz32(left & -left)] += count;
    });
    for (let c = 0; c < m; c++) drawn[c][d] = departure(counts[c], expected[c]);
    if (d % 50 === 0) yield;
  }
  const known = (holds: Uint8Array): Int8Array => Int8Array.from(holds, (h, i) => (keep(i) ? h : -1));
  const lasting = persistence(
    looks,
    conditions.map((c) => known(c.holds)),
  );
  return Float64Array.from(conditions, (_, c) => {
    const t = departure(found[c], expected[c]) / Math.sqrt(lasting);
    let asGreat = 1;
    for (const v of drawn[c]) if (v >= t - 1e-9) asGreat++;
    return t > 0 ? asGreat / (draws + 1) : 1;
  });
}

/**
 * Searches the combinations of one, two and three conditions for those that best tell looks with fish from looks
 * without, within each trip. Single conditions first; a second one is tried only on top of one that stands, among the
 * looks where that holds, and a third on top of a pair. Each of the three rounds is corrected for all that it tried
 * (false discovery rate). A pair or a triple is listed only if it is better than each of its parts, and one combination
 * that says the same as a better one is not listed again. A generator, so that who runs it can show how far it is, do
 * other things in between, and leave off.
 * @yields the share done
 */
export function* searchCombinations(
  looks: SearchedLooks,
  conditions: Condition[],
  { max = 3, falseShare = FALSE_SHARE, list = 8 }: SearchOptions = {},
): Generator<number, CombinationSearch> {
  const within = new WithinTrips(looks.used, looks.effort, looks.clusters);
  const enough = (holds: Uint8Array): boolean => {
    let count = 0;
    for (let i = 0; i < holds.length; i++) count += holds[i];
    if (count < LEAST_LOOKS || holds.length - count < LEAST_LOOKS) return false;
    const rate = within.divide(holds);
    return rate.trips >= LEAST_COMBINED_TRIPS && rate.places >= LEAST_PLACES;
  };
  const join = (a: Uint8Array | null, b: Uint8Array): Uint8Array => (a ? b.map((v, i) => v & a[i]) : b);
  const standing: (Tried & { q: number })[] = [];
  let tried = 0;
  let bases: { parts: Condition[]; holds: Uint8Array | null }[] = [{ parts: [], holds: null }];
  for (let round = 1; round <= max && bases.length; round++) {
    const tests: Tried[] = [];
    const seen = new Set<string>();
    for (const [n, base] of bases.entries()) {
      const more = conditions.filter((c) => {
        const key = [...base.parts, c]
          .map((p) => p.key)
          .sort()
          .join(' ');
        if (seen.has(key) || base.parts.some((p) => p.covariate === c.covariate) || !enough(join(base.holds, c.holds))) return false;
        seen.add(key);
        return true;
      });
      if (!more.length) continue;
      const steps = shiftTests(looks, more, base.holds, round * 1000 + n);
      for (let step = steps.next(), k = 0; ; step = steps.next(), k++) {
        if (step.done) {
          more.forEach((c, m) => tests.push({ parts: [...base.parts, c], holds: join(base.holds, c.holds), p: step.value[m] }));
          break;
        }
        yield (round - 1 + (n + Math.min(1, k / (MOST_DRAWS / 50))) / bases.length) / max;
      }
    }
    tried += tests.length;
    const q = falseDiscovery(tests.map((t) => t.p));
    const stand = tests
      .map((t, k) => ({ ...t, q: q[k] }))
      .filter((t) => t.q <= falseShare && (t.parts.length === 1 || addsToParts(looks, t.parts, t.holds)));
    standing.push(...stand);
    bases = stand.sort((a, b) => a.p - b.p).slice(0, list);
  }
  const order = standing
    .map((t) => ({ ...t, rate: within.divide(t.holds) }))
    .filter((t) => t.rate.ratio > 1)
    .sort((a, b) => a.p - b.p || a.rate.p - b.rate.p);
  const found: typeof order = [];
  for (const t of order) {
    if (found.length >= list) break;
    if (!found.some((f) => sameLooks(f.holds, t.holds))) found.push(t);
  }
  return {
    found: found.map(({ parts, rate, q: share }) => ({
      conditions: parts.map(({ key, says, covariate: of }) => ({ key, says, covariate: of })),
      rate,
      falseShare: share,
    })),
    tried,
  };
}

/** Whether the rate where all parts hold is above that where only the rest of each part does: lower end of 80 % over 1. */
function addsToParts(looks: SearchedLooks, parts: Condition[], holds: Uint8Array): boolean {
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

const AS_CONDITIONS: [covariate: string, holds: (v: number) => boolean, says: Statement<ConditionCode>][] = [
  ['hardness', (v) => v >= 0.6, statement('condition.hard')],
  ['hardness', (v) => v < 0.35, statement('condition.soft')],
  ['edge', (v) => v <= 20, statement('condition.edge', { within: 20 })],
  ['wood', (v) => v <= 20, statement('condition.timber', { within: 20 })],
  ['weed', (v) => v <= 20, statement('condition.weed', { within: 20 })],
  ['slope', (v) => v >= 10, statement('condition.slope', { percent: 10 })],
  ['position-near', (v) => v >= 0.4, statement('condition.rise')],
  ['position-wide', (v) => v >= 0.8, statement('condition.hump')],
  ['position-wide', (v) => v <= -0.8, statement('condition.hole')],
  ['above-thermocline', (v) => v >= 0 && v <= 2, statement('condition.above-thermocline', { within: 2 })],
  ['above-thermocline', (v) => v < 0, statement('condition.below-thermocline')],
  ['blown6', (v) => v >= 0.25, statement('condition.blown', { hours: 6 })],
  ['blown6', (v) => v <= -0.25, statement('condition.sheltered', { hours: 6 })],
  ['bait200', (v) => v === 1, statement('condition.bait', { within: 200 })],
  ['channel', (v) => v <= 50, statement('condition.channel', { within: 50 })],
  ['shore', (v) => v <= 40, statement('condition.shore', { within: 40 })],
  ['deep', (v) => v <= 50, statement('condition.deep', { within: 50 })],
  ['arm', (v) => v >= 0.34, statement('condition.arm')],
  ['sun', (v) => v <= 8, statement('condition.sun')],
];

/**
 * The conditions that a search of a log tries: fixed ones of the field, and the thirds of its bottom depths.
 * A look where a condition's value is not known counts as one where it does not hold.
 */
export function conditionsOf(selected: Selected, values: CovariateValues): Condition[] {
  const { scans } = selected;
  const list: Condition[] = [];
  const add = (key: string, holds: (v: number) => boolean, says: Statement<ConditionCode>): void => {
    const of = values.of(key);
    const out = new Uint8Array(scans.length);
    for (let k = 0; k < out.length; k++) if (holds(of[scans[k]])) out[k] = 1;
    list.push({ key: says.code, says, covariate: key, holds: out });
  };
  const depth = values.of('depth');
  const sorted = pick(depth, scans).sort();
  if (sorted.length) {
    const [third, second] = [1 / 3, 2 / 3].map((q) => Math.round(sorted[Math.floor(q * sorted.length)]));
    add('depth', (v) => v < third, statement('condition.depth.under', { to: third }));
    if (second > third) add('depth', (v) => v >= third && v < second, statement('condition.depth', { from: third, to: second }));
    add('depth', (v) => v >= second, statement('condition.depth.over', { from: second }));
  }
  for (const [key, holds, says] of AS_CONDITIONS) add(key, holds, says);
  return list;
}

/** One cell of a heat map of two covariates. */
export interface HeatCell {
  /** Places in the lists of classes on either axis. */
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
): { cells: HeatCell[]; classes: [number[], number[]] } {
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
  return { cells, classes: [as, bs] };
}
