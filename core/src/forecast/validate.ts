import type { CellTable } from '../chart';
import { seeded } from '../numbers';
import { seasonOf, type SpeciesProfile, type StageName } from '../species';
import type { Borrowed } from './borrow';
import { courseOf, waterYearOf, type WaterFrame } from './conditions';
import { CancelledError, fitModel } from './fit';
import { logEffort, seenChance, type FitLook, type SpeciesLook } from './look-likelihood';
import { hotSpots, type CellTally } from './hot-spots';
import { chanceOverTrips } from './predict';
import { Rates } from './rates';
import { combinedScore, strategyDay, strategyScore, STRATEGIES, type Strategy } from './strategies';
import { betterBy, scoresOf, type HeldLook, type Scored, type Scores } from './scores';
import { speciesOdds } from './species-odds';

/** Who is held against the model: a constant, the strategies combined, last seasons' hot spots, and each strategy alone. */
export const RIVALS = ['base rate', 'strategies', 'hot spots', ...STRATEGIES] as const;
export type Rival = (typeof RIVALS)[number];

/** How trips were held out. */
export type Held = 'trips' | 'fortnights' | 'last season';

export interface HeldScores {
  held: Held;
  /** So many fits were made, each without the looks that it was then judged by. */
  folds: number;
  model: Scores;
  /** Log score of each rival, and by how much the model is better, nats a look. */
  rivals: Record<Rival, { logScore: number; modelBetterBy: Scored }>;
  /** Share of the species in the tenth of the water that was thought best: by the model and by the hot spots. */
  bestTenth: { model: number; hotSpots: number };
}

/** How right one strategy was, against the average look. */
export interface StrategyLine {
  strategy: Strategy;
  better: Scored;
}

export interface ScoreCard {
  made: HeldScores[];
  /** The strategies in each stage of the season, all year first, by how right they were on trips held out. */
  stages: { stage: StageName | null; looks: number; trips: number; strategies: StrategyLine[] }[];
  /** The strategies season by season. */
  years: { year: number; looks: number; strategies: StrategyLine[] }[];
  /**
   * What the model is worth on trips held out: clearly better than the strategies and than the base rate, clearly worse than
   * one of them, or not to be told apart.
   */
  verdict: 'better' | 'worse' | 'not told apart';
  /** The one of the two that came nearest to it, or passed it. */
  nearest: 'strategies' | 'base rate';
}

export interface ValidateOptions {
  /** What every fit starts from that was learned on another water. */
  borrowed?: Borrowed | null;
  onProgress?: (share: number, words: string) => void;
  cancelled?: () => boolean;
  /** At most so many fits for each way of holding out. */
  folds?: number;
}

/** Trips below which nothing can be held out. */
export const LEAST_TRIPS = 4;
const FORTNIGHT = 14 * 86_400_000;

interface Judged {
  look: SpeciesLook;
  said: number;
  rivals: number[];
  /** What was said of a scan of the whole cell, by the model and by the hot spots. */
  whole: [model: number, hotSpots: number];
}

/**
 * Scores fits on looks that they have not seen: trips in groups, whole fortnights, and the last season. All that is
 * learned (names, smoothing, the rivals' levels, the width of the hot spots) is learned anew without them. Scans alone
 * are scored, each weighted by how much water of its depth there is for each look at that depth, so that the scores
 * speak of the water and not of where the boat goes.
 * @returns null with fewer than LEAST_TRIPS trips or nothing seen
 */
export function validate(
  all: FitLook[],
  species: SpeciesProfile,
  known: SpeciesProfile[],
  cells: CellTable,
  frame: WaterFrame,
  options: ValidateOptions = {},
): ScoreCard | null {
  const { folds: most = 5, onProgress, cancelled, borrowed = null } = options;
  const looks = speciesOdds(all, species, known, cells);
  const trips = [...new Set(looks.map((l) => l.trip))];
  const start = new Map<number, number>();
  for (const { trip, look } of looks) start.set(trip, Math.min(start.get(trip) ?? Infinity, look.from));
  if (trips.length < LEAST_TRIPS || !looks.some((l) => l.odds.length && Array.from(l.odds).some((o) => o > 0.5))) return null;
  trips.sort((a, b) => start.get(a)! - start.get(b)!);
  const groups = (keyOf: (trip: number) => number): number[][] => {
    const keys = [...new Set(trips.map(keyOf))];
    const n = Math.min(most, keys.length);
    return Array.from({ length: n }, (_, g) => trips.filter((t) => keys.indexOf(keyOf(t)) % n === g));
  };
  const yearOf = (trip: number): number => new Date(start.get(trip)!).getUTCFullYear();
  const last = yearOf(trips[trips.length - 1]);
  const fortnightOf = (trip: number): number => Math.floor(start.get(trip)! / FORTNIGHT);
  const fortnights = new Set(trips.map(fortnightOf));
  const ways: [Held, number[][]][] = [
    ['trips', groups((t) => trips.indexOf(t))],
    // Where no two trips fell into one fortnight, that would be the same again.
    ['fortnights', fortnights.size < trips.length ? groups(fortnightOf) : []],
    ['last season', yearOf(trips[0]) === last ? [] : [trips.filter((t) => yearOf(t) === last)]],
  ];
  const weights = waterWeights(looks, cells);
  const total = ways.reduce((s, [, g]) => s + g.length, 0);
  let done = 0;
  const made: HeldScores[] = [];
  let ofTrips: Judged[] = [];
  for (const [held, folds] of ways) {
    // Folds that leave nothing to learn from say nothing.
    const judged = folds.flatMap((fold) => {
      if (cancelled?.()) throw new CancelledError('the scoring was cancelled');
      const out = new Set(fold);
      const own = judge(all, looks, out, species, known, cells, borrowed);
      onProgress?.(++done / total, `scoring on ${held} held out`);
      return own;
    });
    if (!judged.length) continue;
    made.push(heldScores(held, folds.length, judged, weights));
    if (held === 'trips') ofTrips = judged;
  }
  if (!made.length) return null;
  const { strategies, 'base rate': even } = made[0].rivals;
  const nearest = strategies.modelBetterBy.value < even.modelBetterBy.value ? 'strategies' : 'base rate';
  const gain = made[0].rivals[nearest].modelBetterBy;
  const stageOf = new Map<number, StageName>();
  const [course, year] = [courseOf(frame), waterYearOf(frame)];
  for (const { trip, day } of looks)
    if (!stageOf.has(trip))
      stageOf.set(
        trip,
        seasonOf(species, {
          at: day.conditions.at,
          surface: day.conditions.surface,
          readings: [],
          latitude: frame.latitude,
          course,
          year,
        }).stage,
      );
  const board = (some: Judged[]): StrategyLine[] =>
    STRATEGIES.map((strategy) => ({ strategy, better: strategyGain(some, strategy, weights) })).sort(
      (a, b) => b.better.value - a.better.value,
    );
  const part = (some: Judged[]): { looks: number; trips: number; strategies: StrategyLine[] } => ({
    looks: some.length,
    trips: new Set(some.map((j) => j.look.trip)).size,
    strategies: board(some),
  });
  const stages = [...new Set(stageOf.values())]
    .map((stage) => ({ stage, ...part(ofTrips.filter((j) => stageOf.get(j.look.trip) === stage)) }))
    .filter((s) => s.trips >= LEAST_TRIPS);
  return {
    made,
    stages: [{ stage: null, ...part(ofTrips) }, ...stages.sort((a, b) => b.trips - a.trips)],
    years: [...new Set(trips.map(yearOf))].map((year) => {
      const own = ofTrips.filter((j) => yearOf(j.look.trip) === year);
      return { year, looks: own.length, strategies: board(own) };
    }),
    nearest,
    verdict: gain.low > 0 ? 'better' : gain.high < 0 ? 'worse' : 'not told apart',
  };
}

/** Share of the water at a look's depth for each scan at that depth, by tenths of the water; between a tenth and ten. */
function waterWeights(looks: SpeciesLook[], cells: CellTable): (l: SpeciesLook) => number {
  const order = Array.from({ length: cells.count }, (_, i) => i)
    .filter((i) => !Number.isNaN(cells.depth[i]))
    .sort((a, b) => cells.depth[a] - cells.depth[b]);
  const edges = Array.from({ length: 9 }, (_, k) => cells.depth[order[Math.floor(((k + 1) * order.length) / 10)]]);
  const band = (cell: number): number => edges.filter((e) => cells.depth[cell] >= e).length;
  const scans = new Float64Array(10);
  for (const l of looks) if (l.look.kind === 'scan') scans[band(l.cell)]++;
  const all = scans.reduce((s, n) => s + n, 0);
  return ({ cell }) => Math.min(10, Math.max(0.1, all / 10 / Math.max(1, scans[band(cell)])));
}

/** Fits without some trips and judges their scans. */
function judge(
  all: FitLook[],
  looks: SpeciesLook[],
  out: Set<number>,
  species: SpeciesProfile,
  known: SpeciesProfile[],
  cells: CellTable,
  borrowed: Borrowed | null,
): Judged[] {
  const training = all.filter((l) => !out.has(l.trip));
  const judged = looks.filter((l) => out.has(l.trip) && l.look.kind === 'scan');
  if (!training.length || !judged.length) return [];
  const sorted = speciesOdds(training, species, known, cells);
  const model = fitModel(species, cells, sorted, { borrowed });
  const rates = new Rates(model, cells);
  const spots = hotSpots(talliesOf(sorted, cells), cells);
  const scans = sorted.filter((l) => l.look.kind === 'scan');
  const days = new Map<FitLook['day'], ReturnType<typeof strategyDay>>();
  const today = (day: FitLook['day']): ReturnType<typeof strategyDay> => {
    let d = days.get(day);
    if (!d) days.set(day, (d = strategyDay(species, day)));
    return d;
  };
  // Each rival is told how scans see, which is nothing of where fish are, and how many the log sees: its level is the one under which as many were expected as seen.
  const scorers: ((l: FitLook) => number)[] = [
    () => 0,
    (l) => combinedScore(today(l.day), cells, l.cell),
    (l) => Math.log(Math.max(1e-9, spots[l.cell])),
    ...STRATEGIES.map((strategy) => (l: FitLook) => strategyScore(strategy, today(l.day), cells, l.cell)),
  ];
  const seen = scans.reduce((s, l) => s + seenChance(l), 0) + 0.5;
  const effortOf = (l: SpeciesLook): number => logEffort(l.look) + rates.detection(l.look, l.cell);
  const efforts = scans.map(effortOf);
  const levels = scorers.map((score) => Math.log(seen / scans.reduce((s, l, k) => s + Math.exp(score(l) + efforts[k]), 0)));
  return judged.map((look) => {
    const effort = effortOf(look);
    const eta = rates.of(look.cell, look.day);
    return {
      look,
      said: chanceOverTrips(eta + effort, model.tripSpread),
      rivals: scorers.map((score, r) => -Math.expm1(-Math.exp(Math.min(4, levels[r] + score(look) + effort)))),
      whole: [eta, Math.log(Math.max(1e-9, spots[look.cell]))],
    };
  });
}

function talliesOf(looks: SpeciesLook[], cells: CellTable): [CellTally, CellTally] {
  const tally = (): CellTally => ({ seen: new Float64Array(cells.count), effort: new Float64Array(cells.count) });
  const halves: [CellTally, CellTally] = [tally(), tally()];
  for (const l of looks)
    if (l.look.kind === 'scan') {
      const half = halves[l.trip % 2];
      half.seen[l.cell] += seenChance(l);
      half.effort[l.cell] += Math.exp(logEffort(l.look));
    }
  return halves;
}

const heldLooks = (judged: Judged[], said: (j: Judged) => number, weights: (l: SpeciesLook) => number): HeldLook[] =>
  judged.map((j) => ({ trip: j.look.trip, said: said(j), seen: seenChance(j.look), weight: weights(j.look) }));

function heldScores(held: Held, folds: number, judged: Judged[], weights: (l: SpeciesLook) => number): HeldScores {
  const own = heldLooks(judged, (j) => j.said, weights);
  const model = scoresOf(own);
  const rivals = Object.fromEntries(
    RIVALS.map((name, r) => {
      const theirs = heldLooks(judged, (j) => j.rivals[r], weights);
      return [name, { logScore: scoresOf(theirs).logScore, modelBetterBy: betterBy(own, theirs, seeded(11 + r)) }];
    }),
  ) as HeldScores['rivals'];
  return { held, folds, model, rivals, bestTenth: { model: bestTenth(judged, 0, weights), hotSpots: bestTenth(judged, 1, weights) } };
}

/** Share of what was seen, by effort, in the tenth of the looks (weighted to the water) thought best. */
function bestTenth(judged: Judged[], who: 0 | 1, weights: (l: SpeciesLook) => number): number {
  const order = [...judged].sort((a, b) => b.whole[who] - a.whole[who]);
  const size = (j: Judged): number => weights(j.look) * Math.exp(logEffort(j.look.look));
  const all = order.reduce((s, j) => s + size(j), 0);
  const seen = order.reduce((s, j) => s + weights(j.look) * seenChance(j.look), 0);
  let [run, found] = [0, 0];
  for (const j of order) {
    if (run >= all / 10) break;
    run += size(j);
    found += weights(j.look) * seenChance(j.look);
  }
  return seen > 0 ? found / seen : 0;
}

/** By how much a strategy is better than the average look. */
function strategyGain(judged: Judged[], strategy: Strategy, weights: (l: SpeciesLook) => number): Scored {
  const of = (name: Rival): HeldLook[] => heldLooks(judged, (j) => j.rivals[RIVALS.indexOf(name)], weights);
  return betterBy(of(strategy), of('base rate'), seeded(101 + STRATEGIES.indexOf(strategy)));
}
