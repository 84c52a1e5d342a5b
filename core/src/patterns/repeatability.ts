import { classCount, covariate, type CovariateValues } from './covariates';
import { seeded } from '../numbers';
import type { Selected } from './question';
import { expectedWithin, overTrips, tally } from './selection';

/** How far one year's pattern resembles another's in the same stages, for one covariate. */
export interface YearsAlike {
  key: string;
  /** Share of the fish that both years would put in the same classes, on the water both looked at: 0–1 (Schoener 1970). */
  overlap: number;
  /** What two halves of one and the same log would show: the middle of random splits of all trips, and their 80 % range. */
  split: [low: number, middle: number, high: number];
  /** Targets in either year on classes that both looked at. */
  targets: [number, number];
}

export interface Repeatability {
  years: [number, number];
  trips: [number, number];
  alike: YearsAlike[];
}

/** Targets a year needs for being compared. */
export const LEAST_IN_YEAR = 15;
const LEAST_TRIPS_A_YEAR = 4;

/** Used and expected by class. */
interface Side {
  used: Float64Array;
  expected: Float64Array;
}

/** Overlap of two selections: both turned into shares over the classes that both looked at enough. */
function overlapOf(a: Side, b: Side): { overlap: number; targets: [number, number] } {
  const both = a.expected.map((v, k) => (v > 0.5 && b.expected[k] > 0.5 ? 1 : 0));
  const shares = ({ used, expected }: Side): Float64Array => {
    const kept = used.map((v, k) => (both[k] ? v / expected[k] : 0));
    const sum = kept.reduce((s, v) => s + v, 0);
    return kept.map((v) => (sum > 0 ? v / sum : 0));
  };
  const [p, q] = [shares(a), shares(b)];
  const of = ({ used }: Side): number => used.reduce((s, v, k) => s + (both[k] ? v : 0), 0);
  return { overlap: 1 - 0.5 * p.reduce((s, v, k) => s + Math.abs(v - q[k]), 0), targets: [of(a), of(b)] };
}

/** Covariates whose patterns are compared. */
const COMPARED = ['depth', 'above-thermocline', 'hardness', 'edge', 'wood', 'weed', 'slope', 'position-wide', 'blown6', 'shore'];

/**
 * Compares the newest two years of a log that have enough targets, season stage by season stage alike: only trips of
 * stages that both years fished. @param stageOf of a trip
 */
export function repeatability(
  selected: Selected,
  values: CovariateValues,
  yearOf: (trip: number) => number,
  stageOf: (trip: number) => string,
  { splits = 200, seed = 1 } = {},
): Repeatability | null {
  const { clusters, used, scans } = selected;
  const targets = new Map<number, number>();
  const trips = new Map<number, Set<number>>();
  scans.forEach((_, k) => {
    const year = yearOf(clusters.trip[k]);
    targets.set(year, (targets.get(year) ?? 0) + used[k]);
    trips.set(year, (trips.get(year) ?? new Set()).add(clusters.trip[k]));
  });
  const years = [...targets.keys()].filter((y) => targets.get(y)! >= LEAST_IN_YEAR && trips.get(y)!.size >= LEAST_TRIPS_A_YEAR);
  if (years.length < 2) return null;
  const [later, earlier] = years.sort((a, b) => b - a);
  const stages = (year: number): Set<string> => new Set([...trips.get(year)!].map(stageOf));
  const both = new Set([...stages(later)].filter((s) => stages(earlier).has(s)));
  const of = (year: number): number[] => [...trips.get(year)!].filter((t) => both.has(stageOf(t)));
  const [early, late] = [of(earlier), of(later)];
  if (early.length < LEAST_TRIPS_A_YEAR || late.length < LEAST_TRIPS_A_YEAR) return null;
  const random = seeded(seed);
  const alike = COMPARED.flatMap((key): YearsAlike[] => {
    const classes = values.classesOf(key);
    const k = classCount(covariate(key));
    const sums = tally({ used, effort: selected.effort, classes: Int8Array.from(scans, (i) => classes[i]), clusters }, k);
    const expected = expectedWithin(sums.used, sums.effort, clusters.trips, k);
    const chosen = (side: number[]): Side => ({ used: overTrips(sums.used, k, side), expected: overTrips(expected, k, side) });
    const found = overlapOf(chosen(early), chosen(late));
    if (Math.min(...found.targets) < LEAST_IN_YEAR) return [];
    const all = [...early, ...late];
    const drawn = Array.from({ length: splits }, () => {
      const mixed = [...all];
      for (let i = mixed.length - 1; i > 0; i--) {
        const j = Math.floor(random() * (i + 1));
        [mixed[i], mixed[j]] = [mixed[j], mixed[i]];
      }
      return overlapOf(chosen(mixed.slice(0, early.length)), chosen(mixed.slice(early.length))).overlap;
    }).sort((a, b) => a - b);
    const at = (q: number): number => drawn[Math.round(q * (drawn.length - 1))];
    return [{ key, overlap: found.overlap, split: [at(0.1), at(0.5), at(0.9)], targets: found.targets }];
  });
  return { years: [earlier, later], trips: [early.length, late.length], alike };
}
