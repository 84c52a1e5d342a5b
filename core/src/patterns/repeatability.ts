import { COVARIATES, type CovariateValues } from './covariates';
import { seeded } from './numbers';
import type { Selected } from './question';
import { selection, type SelectionClass } from './selection';

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

/** Overlap of two selections: both turned into shares over the classes that both looked at enough. */
function overlapOf(a: SelectionClass[], b: SelectionClass[]): { overlap: number; targets: [number, number] } {
  const both = a.map((row, k) => row.expected > 0.5 && b[k].expected > 0.5);
  const shares = (rows: SelectionClass[]): number[] => {
    const kept = rows.map((r, k) => (both[k] ? r.ratio || 0 : 0));
    const sum = kept.reduce((s, v) => s + v, 0);
    return kept.map((v) => (sum > 0 ? v / sum : 0));
  };
  const [p, q] = [shares(a), shares(b)];
  const of = (rows: SelectionClass[]): number => rows.reduce((s, r, k) => s + (both[k] ? r.used : 0), 0);
  return { overlap: 1 - 0.5 * p.reduce((s, v, k) => s + Math.abs(v - q[k]), 0), targets: [of(a), of(b)] };
}

/**
 * Compares the newest two years of a log that have enough targets, season stage by season stage alike: only trips of
 * stages that both years fished. @param stageOf of a trip
 */
export function repeatability(
  selected: Selected,
  values: CovariateValues,
  yearOf: (trip: number) => number,
  stageOf: (trip: number) => string,
  { splits = 40, seed = 1 } = {},
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
  const alike = COVARIATES.filter(
    (c) =>
      c.within === 'trip' &&
      ['depth', 'above-thermocline', 'hardness', 'edge', 'wood', 'weed', 'slope', 'position-wide', 'blown6', 'shore'].includes(c.key),
  ).flatMap((c): YearsAlike[] => {
    const classes = values.classesOf(c.key);
    const chosen = (side: Set<number>): SelectionClass[] => {
      const rows: number[] = [];
      for (let k = 0; k < scans.length; k++) if (side.has(clusters.trip[k])) rows.push(k);
      const pick = <T extends ArrayLike<number>>(list: T): number[] => rows.map((k) => list[k]);
      const sub = {
        ...clusters,
        trip: Int32Array.from(pick(clusters.trip)),
        place: Int32Array.from(pick(clusters.place)),
        both: Int32Array.from(pick(clusters.both)),
      };
      return selection(
        { used: pick(used), effort: pick(selected.effort), classes: rows.map((k) => classes[scans[k]]), clusters: sub },
        { classes: c.labels?.length ?? c.edges!.length, resamples: 0 },
      );
    };
    const found = overlapOf(chosen(new Set(early)), chosen(new Set(late)));
    if (Math.min(...found.targets) < LEAST_IN_YEAR) return [];
    const all = [...early, ...late];
    const drawn = Array.from({ length: splits }, () => {
      const mixed = [...all];
      for (let i = mixed.length - 1; i > 0; i--) {
        const j = Math.floor(random() * (i + 1));
        [mixed[i], mixed[j]] = [mixed[j], mixed[i]];
      }
      return overlapOf(chosen(new Set(mixed.slice(0, early.length))), chosen(new Set(mixed.slice(early.length)))).overlap;
    }).sort((a, b) => a - b);
    const at = (q: number): number => drawn[Math.round(q * (drawn.length - 1))];
    return [{ key: c.key, overlap: found.overlap, split: [at(0.1), at(0.5), at(0.9)], targets: found.targets }];
  });
  return { years: [earlier, later], trips: [early.length, late.length], alike };
}
