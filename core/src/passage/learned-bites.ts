import { distance, type LatLon } from '../geo';
import { isBite } from '../logbook';
import { USUAL_PACE } from './stay-or-leave';

/** A stop as it was fished: how long, and when fish bit. */
export interface FishedStop {
  /** Rods times minutes. */
  rodMinutes: number;
  /** Of each bite, rod-minutes from the start of the stop. */
  bites: number[];
  /** Whether fish were seen there before or while it was fished. */
  fishSeen: boolean;
}

/** What a stop brings. */
export interface StopBites {
  /** Share of stops with fish at which any of them bite at all, 0–1; null where too few stops say whether fish were seen. */
  willing: number | null;
  /** Bites that a long stay brings where they do. */
  bites: number;
  /** Rod-minutes in which 63 % of them come. */
  pace: number;
  /** Stops and bites this was learned from. */
  stops: number;
  bitten: number;
}

/** Fewer stops, or bites, tell nothing. */
const LEAST = { stops: 8, bites: 4 };
/** Expected before any log: 63 % of the bites in the usual pace, give or take this on the scale of logarithms. Judgements. */
const PACE_SPREAD = 0.5;
/** One bite a stop, worth two stops; fish willing at two of three stops, worth three. Judgements. */
const PRIOR = { bites: 2, stops: 2, willing: 2, unwilling: 1 };
/** Paces that are tried, rod-minutes. */
const PACES = Array.from({ length: 41 }, (_, k) => 4 * 1.1 ** k);

/**
 * How fast fish bite at a stop, how many do, and how often none does: at a share of stops they are willing, and then bites come as a
 * Poisson process whose rate falls by exp(−t/pace). Of stops that ended early it is only known that nothing came until then. Fitted
 * by expectation-maximisation under weak priors, so that a short log stays near what is usual.
 * Source: Dempster, Laird & Rubin 1977; for shares that never respond Boag 1949.
 * @returns null where there is too little to learn from
 */
export function learnBites(stops: readonly FishedStop[]): StopBites | null {
  const fished = stops.filter((s) => s.rodMinutes > 0);
  const bitten = fished.reduce((sum, s) => sum + s.bites.length, 0);
  if (fished.length < LEAST.stops || bitten < LEAST.bites) return null;
  let best: { value: number; share: number; bites: number; pace: number } | null = null;
  for (const pace of PACES) {
    const found = fitAtPace(fished, pace);
    if (!best || found.value > best.value) best = { ...found, pace };
  }
  // Whether fish are there is the forecast's part: willing are those that were seen and bit.
  const seen = fished.filter((s) => s.fishSeen);
  const willing = seen.length >= LEAST.stops ? fitAtPace(seen, best!.pace).share : null;
  return { willing, bites: best!.bites, pace: best!.pace, stops: fished.length, bitten };
}

/** Share of stops with willing fish, and their bites, at a pace; with the logarithm of the posterior. */
function fitAtPace(stops: readonly FishedStop[], pace: number): { value: number; share: number; bites: number } {
  const told = stops.map((s) => -Math.expm1(-s.rodMinutes / pace));
  const bitten = stops.reduce((sum, s) => sum + s.bites.length, 0);
  let [share, bites] = [0.6, 1];
  for (let round = 0; round < 60; round++) {
    let [willing, exposed] = [0, 0];
    stops.forEach((s, i) => {
      const miss = share * Math.exp(-bites * told[i]);
      const w = s.bites.length ? 1 : miss / (1 - share + miss);
      willing += w;
      exposed += w * told[i];
    });
    share = (willing + PRIOR.willing - 1) / (stops.length + PRIOR.willing + PRIOR.unwilling - 2);
    bites = (bitten + PRIOR.bites - 1) / (exposed + PRIOR.stops);
  }
  const off = Math.log(pace / USUAL_PACE) / PACE_SPREAD;
  let value = -(off * off) / 2 + (PRIOR.bites - 1) * Math.log(bites) - PRIOR.stops * bites;
  value += (PRIOR.willing - 1) * Math.log(share) + (PRIOR.unwilling - 1) * Math.log(1 - share + 1e-12);
  stops.forEach((s, i) => {
    const none = Math.exp(-bites * told[i]);
    if (s.bites.length === 0) value += Math.log(1 - share + share * none);
    else value += Math.log(share) - bites * told[i] + s.bites.reduce((sum, t) => sum + Math.log(bites / pace) - t / pace, 0);
  });
  return { value, share, bites };
}

/** Fish count as seen at a stop within this of it, m, and within this before it, ms. */
const NEAR = 60;
const BEFORE = 2 * 3_600_000;

/** Records that stops are learned from, of any trips. */
export interface StopsLogged {
  stops: (LatLon & { trip_id: string; stop: string; start: string; end: string; rods: number | null; outcome: string | null })[];
  responses: { trip_id: string; stop: string | null; time: string; response: string; species: string | null }[];
  contacts: (LatLon & { trip_id: string; time: string; kind: string; species: string | null; stop: string | null })[];
}

/**
 * The stops of a log as they were fished for a species. A bite without a name counts: who loses a fish seldom knows it.
 * @param is whether a name is the species
 */
export function fishedStops({ stops, responses, contacts }: StopsLogged, is: (species: string) => boolean): FishedStop[] {
  const ours = (species: string | null): boolean => species === null || is(species);
  const bitesAt = new Map<string, string[]>();
  for (const r of responses) {
    if (r.stop === null || !isBite(r.response) || !ours(r.species)) continue;
    const key = `${r.trip_id} ${r.stop}`;
    bitesAt.set(key, [...(bitesAt.get(key) ?? []), r.time]);
  }
  const seenOn = new Map<string, StopsLogged['contacts']>();
  for (const c of contacts) if (c.kind === 'fish' && ours(c.species)) seenOn.set(c.trip_id, [...(seenOn.get(c.trip_id) ?? []), c]);
  return stops.flatMap((s): FishedStop[] => {
    const [start, end] = [Date.parse(s.start), Date.parse(s.end)];
    if (s.outcome === 'unfishable' || !(end > start)) return [];
    const rods = Math.max(1, s.rods ?? 1);
    const at = (time: string): number => Math.max(0, Math.min(Date.parse(time), end) - start) / 60_000;
    const seen = (seenOn.get(s.trip_id) ?? []).some((c) => {
      const when = Date.parse(c.time);
      return c.stop === s.stop || (when >= start - BEFORE && when <= end && distance(c, s) <= NEAR);
    });
    return [
      {
        rodMinutes: ((end - start) / 60_000) * rods,
        bites: (bitesAt.get(`${s.trip_id} ${s.stop}`) ?? []).map((time) => at(time) * rods),
        fishSeen: seen,
      },
    ];
  });
}
