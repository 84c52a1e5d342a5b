import { VIEWS } from '../logbook';
import { rateRatio } from '../numbers';
import { bottomOf, clustersOf, type LookTable } from './look-table';

/** How well a view sees, learned from the log. */
export interface ViewDetection {
  view: string;
  /** Targets whose distance off the line is known, and looks. */
  n: number;
  looks: number;
  /** Distance off the line within which it sees well, m, at `depth` m of water; null = as well at the edge as at the line. */
  sigma: number | null;
  /** Change of the logarithm of sigma with a metre of depth. */
  withDepth: number;
  depth: number;
  /** What it shows for the same water, against the view most used: 1 = as much. */
  against: number;
}

/** The least targets with a known distance for which the fall of detection is fitted. */
export const LEAST_DISTANCES = 40;
/** Twice the gain in log-likelihood that two parameters must bring (χ² with 2 degrees, 5 %). */
const WORTH = 5.99;

/** Error function. Source: Abramowitz & Stegun 7.1.26, error below 1.5e−7. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * x);
  return 1 - t * Math.exp(-x * x) * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
}

/** Mean chance, over the width of a swath, of a target being seen, if it surely is at the line. */
const seenShare = (sigma: number, reach: number): number =>
  reach > 0 ? Math.min(1, (sigma * Math.sqrt(Math.PI / 2) * erf(reach / (sigma * Math.SQRT2))) / reach) : 1;

const sigmaOf = (d: ViewDetection, depth: number): number => d.sigma! * Math.exp(d.withDepth * (depth - d.depth));

/**
 * Detection by view: a half-normal fall with the distance off the boat's line, whose width may change with the depth
 * of the water, from the distances at which targets were marked; and how much a view shows against the one most
 * used, on the same trips at like depths. What is at the line is taken to be seen.
 * Source: Buckland et al. 2001, Introduction to Distance Sampling.
 */
export function fitDetection(table: LookTable): ViewDetection[] {
  const out: ViewDetection[] = [];
  const marked = new Map<number, { off: number; reach: number; depth: number }[]>();
  for (const t of table.targets) {
    const view = table.view[t.look];
    const reach = table.reach[t.look];
    if (table.kind[t.look] !== 0 || (t.kind !== 'fish' && t.kind !== 'bait') || t.off == null || t.off > reach) continue;
    if (t.view != null && t.view !== VIEWS[view]) continue;
    const list = marked.get(view) ?? [];
    list.push({ off: t.off, reach, depth: bottomOf(table, t.look) });
    marked.set(view, list);
  }
  const looks = new Map<number, number>();
  for (let i = 0; i < table.count; i++) if (table.kind[i] === 0) looks.set(table.view[i], (looks.get(table.view[i]) ?? 0) + 1);
  const order = [...looks.entries()].sort((a, b) => b[1] - a[1]);
  for (const [view, count] of order) {
    const list = marked.get(view) ?? [];
    // A sounder's cone has no direction: where the mark was put says nothing of the distance.
    // Some thousands tell it as well as all.
    const step = Math.ceil(list.length / 3000);
    const some = list.filter((_, k) => k % step === 0);
    const fitted = VIEWS[view] === 'side-scan' && list.length >= LEAST_DISTANCES ? fallWithDistance(some) : null;
    out.push({ view: VIEWS[view] ?? 'not said', n: list.length, looks: count, sigma: null, withDepth: 0, depth: 0, ...fitted, against: 1 });
  }
  againstMostUsed(table, out);
  return out;
}

function fallWithDistance(
  list: { off: number; reach: number; depth: number }[],
): Pick<ViewDetection, 'sigma' | 'withDepth' | 'depth'> | null {
  const depth = list.reduce((s, m) => s + m.depth, 0) / list.length;
  const flat = list.reduce((s, m) => s - Math.log(m.reach), 0);
  const likelihood = (logSigma: number, slope: number): number => {
    let sum = 0;
    for (const m of list) {
      const sigma = Math.exp(logSigma + slope * (m.depth - depth));
      sum -= m.off ** 2 / (2 * sigma * sigma) + Math.log(seenShare(sigma, m.reach) * m.reach);
    }
    return sum;
  };
  let best = { value: -Infinity, a: 0, b: 0 };
  let [a0, b0, da, db] = [Math.log(20), 0, 0.3, 0.03];
  for (let round = 0; round < 4; round++) {
    for (let i = -8; i <= 8; i++)
      for (let j = -5; j <= 5; j++) {
        const value = likelihood(a0 + i * da, b0 + j * db);
        if (value > best.value) best = { value, a: a0 + i * da, b: b0 + j * db };
      }
    [a0, b0, da, db] = [best.a, best.b, da / 4, db / 4];
  }
  if (2 * (best.value - flat) < WORTH) return null;
  return { sigma: Math.exp(best.a), withDepth: best.b, depth };
}

/** Compares views on the same trips at like depths, drawn toward no difference where there is little to tell it by. */
function againstMostUsed(table: LookTable, views: ViewDetection[]): void {
  const most = views[0]?.view;
  const effort = effectiveEffort(table, views);
  const fish = new Float64Array(table.count);
  for (const t of table.targets) if (t.kind === 'fish' || t.kind === 'bait') fish[t.look]++;
  for (const v of views.slice(1)) {
    const rows: number[] = [];
    for (let i = 0; i < table.count; i++) {
      const name = VIEWS[table.view[i]] ?? 'not said';
      if (table.kind[i] === 0 && (name === v.view || name === most)) rows.push(i);
    }
    const strata = new Map<number, number>();
    const of = Int32Array.from(rows, (i) => {
      const key = table.trip[i] * 100 + Math.min(99, Math.floor(bottomOf(table, i) / 2));
      if (!strata.has(key)) strata.set(key, strata.size);
      return strata.get(key)!;
    });
    const found = rateRatio(
      rows.map((i) => fish[i]),
      rows.map((i) => effort[i]),
      rows.map((i) => (VIEWS[table.view[i]] === v.view ? 1 : 0)),
      clustersOf(table, rows),
      { strata: { of, count: strata.size } },
    );
    if (found.df < 2 || !(found.error > 0)) continue;
    v.against = Math.exp((Math.log(found.ratio) * LIKELY_SPREAD ** 2) / (LIKELY_SPREAD ** 2 + found.error ** 2));
  }
}

/** How different views commonly are, standard deviation on the log scale: a judgement. */
const LIKELY_SPREAD = 0.5;

/** Effort of each scan look times the share of targets that its view shows there; other looks keep theirs. */
export function effectiveEffort(table: LookTable, views: ViewDetection[]): Float64Array {
  const byView = new Map(views.map((v) => [v.view, v]));
  return Float64Array.from({ length: table.count }, (_, i) => {
    const v = table.kind[i] === 0 ? byView.get(VIEWS[table.view[i]] ?? 'not said') : undefined;
    if (!v) return table.effort[i];
    const share = v.sigma === null ? 1 : seenShare(sigmaOf(v, bottomOf(table, i)), table.reach[i]);
    return table.effort[i] * share * v.against;
  });
}
