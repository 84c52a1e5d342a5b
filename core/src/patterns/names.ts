import type { LogContact } from './look-table';
import { shareOf, type Share } from '../numbers';
import { signsOf, type Settled, type Signs } from './signs';
import { TargetOdds } from './target-odds';

/** Those that are reported one by one. */
const REPORTED = ['form', 'density', 'core', 'place'] as const satisfies (keyof Signs)[];

/**
 * Targets that were seen on a screen and settled afterwards: sightings joined by `same_as`, one confirmed; or the
 * contact that a landed fish names.
 * @param caught species by trip and contact, from landed fish
 * @param nameOf a name as its profile has it
 */
export function settledTargets(contacts: LogContact[], caught: Map<string, string>, nameOf: (name: string) => string): Settled[] {
  const byTrip = new Map<string, LogContact[]>();
  for (const c of contacts)
    if (c.kind === 'fish') {
      const list = byTrip.get(c.trip_id);
      if (list) list.push(c);
      else byTrip.set(c.trip_id, [c]);
    }
  const out: Settled[] = [];
  for (const [trip, list] of byTrip) {
    const byKey = new Map(list.map((c) => [c.contact ?? c.id, c]));
    const root = (c: LogContact): LogContact => {
      let r = c;
      for (let k = 0; k < 20 && r.same_as != null && byKey.has(r.same_as) && r.same_as !== r.contact; k++) r = byKey.get(r.same_as)!;
      return r;
    };
    const groups = new Map<LogContact, LogContact[]>();
    for (const c of list) groups.set(root(c), [...(groups.get(root(c)) ?? []), c]);
    for (const group of groups.values()) {
      const onScreen = group.find((c) => c.view !== 'line' && c.view !== 'eye' && (c.confirmed == null || c.confirmed === 'none'));
      const sure = group.find((c) => c.confirmed != null && c.confirmed !== 'none' && c.species);
      const hooked = group.map((c) => caught.get(`${trip} ${c.contact ?? c.id}`)).find((s) => s != null);
      const was = hooked ?? sure?.species;
      if (!onScreen || !was) continue;
      out.push({
        trip,
        signs: signsOf(onScreen),
        guessed: onScreen.species && nameOf(onScreen.species),
        confidence: onScreen.confidence,
        was: nameOf(was),
      });
    }
  }
  return out;
}

/** How odds held: of those given about so, how many were right. */
export interface Calibration {
  lines: { from: number; to: number; said: number; share: Share }[];
  /** Brier score of the first guess, and of always saying the share of right ones; lower is better. */
  brier: number;
  baseline: number;
  right: Share;
}

export interface NameReport {
  settled: number;
  trips: number;
  /** For each sign and value: what those targets turned out to be. */
  bySign: { sign: (typeof REPORTED)[number]; value: string; n: number; were: { name: string; share: Share }[] }[];
  /** How what was said on the water held, and how the log's own odds do, each trip judged by the others. */
  said: Calibration | null;
  odds: Calibration | null;
}

const BINS: [number, number][] = [
  [0, 0.5],
  [0.5, 0.65],
  [0.65, 0.8],
  [0.8, 0.9],
  [0.9, 1.001],
];

/** Settled targets below which nothing is said of names. */
export const LEAST_SETTLED = 12;

function calibrationOf(rows: { trip: number; said: number; right: boolean }[]): Calibration | null {
  if (rows.length < LEAST_SETTLED) return null;
  const share = rows.filter((r) => r.right).length / rows.length;
  const mean = (of: (r: (typeof rows)[number]) => number): number => rows.reduce((s, r) => s + of(r), 0) / rows.length;
  return {
    lines: BINS.flatMap(([from, to]) => {
      const own = rows.filter((r) => r.said >= from && r.said < to);
      if (!own.length) return [];
      return [
        {
          from,
          to: Math.min(1, to),
          said: own.reduce((s, r) => s + r.said, 0) / own.length,
          share: shareOf(own.map((r) => ({ trip: r.trip, yes: r.right }))),
        },
      ];
    }),
    brier: mean((r) => (r.said - (r.right ? 1 : 0)) ** 2),
    baseline: share * (1 - share),
    right: shareOf(rows.map((r) => ({ trip: r.trip, yes: r.right }))),
  };
}

/** What screens' signs turned out to be, and how far names given from them can be trusted. */
export function nameReport(settled: Settled[]): NameReport {
  const tripOf = new Map<string, number>();
  for (const s of settled) if (!tripOf.has(s.trip)) tripOf.set(s.trip, tripOf.size);
  const trip = (s: Settled): number => tripOf.get(s.trip)!;
  const bySign = REPORTED.flatMap((sign) =>
    [...new Set(settled.map((s) => s.signs[sign]))].flatMap((value) => {
      const own = settled.filter((s) => s.signs[sign] === value);
      if (value === null || own.length < LEAST_SETTLED) return [];
      const names = [...new Set(own.map((s) => s.was))];
      return [
        {
          sign,
          value,
          n: own.length,
          were: names
            .map((name) => ({ name, share: shareOf(own.map((s) => ({ trip: trip(s), yes: s.was === name }))) }))
            .sort((a, b) => b.share.share - a.share.share),
        },
      ];
    }),
  );
  const said = settled.flatMap((s) =>
    s.guessed === null || s.confidence === null ? [] : [{ trip: trip(s), said: s.confidence, right: s.guessed === s.was }],
  );
  // Each trip is judged by odds learned from the others.
  const { temper } = new TargetOdds(settled);
  const odds = [...tripOf.keys()].flatMap((key) => {
    const learned = new TargetOdds(
      settled.filter((s) => s.trip !== key),
      [],
      temper,
    );
    return settled
      .filter((s) => s.trip === key)
      .flatMap((s) => {
        const [first] = learned.of(s.signs);
        return first ? [{ trip: trip(s), said: first.odds, right: first.species === s.was }] : [];
      });
  });
  return { settled: settled.length, trips: tripOf.size, bySign, said: calibrationOf(said), odds: calibrationOf(odds) };
}
