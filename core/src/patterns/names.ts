import type { LogContact } from './look-table';
import { shareOf, type Share } from '../numbers';

/** What the screen shows of a target, in words; null where nobody said. */
export interface Signs {
  form: string | null;
  density: string | null;
  core: string | null;
  place: string | null;
}

export const SIGNS: (keyof Signs)[] = ['form', 'density', 'core', 'place'];

/** A target seen on a screen whose species was settled later, by a catch, a camera or an eye. */
export interface Settled {
  trip: string;
  signs: Signs;
  /** What it was taken for on the screen, and how sure; null where nobody said. */
  guessed: string | null;
  confidence: number | null;
  was: string;
}

/** Where in the column something stands: near the surface, in mid-water, near the bottom or on it. */
export function placeInColumn(contact: Pick<LogContact, 'top_m' | 'bottom_m' | 'water_depth_m'>): string | null {
  if (contact.top_m == null || contact.water_depth_m == null || !(contact.water_depth_m > 0)) return null;
  const middle = (contact.top_m + (contact.bottom_m ?? contact.top_m)) / 2;
  const over = contact.water_depth_m - middle;
  if (over < 0.6) return 'on the bottom';
  if (over < Math.min(2.5, 0.35 * contact.water_depth_m)) return 'near the bottom';
  return middle < 0.25 * contact.water_depth_m ? 'near the surface' : 'mid-water';
}

const signsOf = (c: LogContact): Signs => ({ form: c.form, density: c.density, core: c.core, place: placeInColumn(c) });

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

/** Odds of each species for what a screen shows: naive Bayes with each sign's counts smoothed by one over its values. */
export class NameOdds {
  private readonly counts = new Map<string, number>();
  private readonly byWas = new Map<string, number>();
  private readonly options = new Map<string, Set<string>>();

  constructor(settled: Settled[]) {
    for (const s of settled) {
      this.byWas.set(s.was, (this.byWas.get(s.was) ?? 0) + 1);
      for (const sign of SIGNS) {
        const v = s.signs[sign];
        if (v === null) continue;
        const known = this.options.get(sign) ?? new Set();
        this.options.set(sign, known.add(v));
        for (const key of [`${s.was} ${sign} ${v}`, `${s.was} ${sign}`]) this.counts.set(key, (this.counts.get(key) ?? 0) + 1);
      }
    }
  }

  /** Species with their odds, the likeliest first; they sum to 1. */
  of(signs: Partial<Signs>): { name: string; odds: number }[] {
    const logs = [...this.byWas.entries()].map(([name, n]) => {
      let log = Math.log(n + 0.5);
      for (const sign of SIGNS) {
        const v = signs[sign];
        const size = this.options.get(sign)?.size ?? 0;
        if (v == null || size < 2) continue;
        log += Math.log(((this.counts.get(`${name} ${sign} ${v}`) ?? 0) + 1) / ((this.counts.get(`${name} ${sign}`) ?? 0) + size));
      }
      return { name, log };
    });
    const top = Math.max(...logs.map((l) => l.log));
    const sum = logs.reduce((s, l) => s + Math.exp(l.log - top), 0);
    return logs.map(({ name, log }) => ({ name, odds: Math.exp(log - top) / sum })).sort((a, b) => b.odds - a.odds);
  }
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
  bySign: { sign: keyof Signs; value: string; n: number; were: { name: string; share: Share }[] }[];
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
  const bySign = SIGNS.flatMap((sign) =>
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
  const odds = [...tripOf.keys()].flatMap((key) => {
    const learned = new NameOdds(settled.filter((s) => s.trip !== key));
    return settled
      .filter((s) => s.trip === key)
      .flatMap((s) => {
        const [first] = learned.of(s.signs);
        return first ? [{ trip: trip(s), said: first.odds, right: first.name === s.was }] : [];
      });
  });
  return { settled: settled.length, trips: tripOf.size, bySign, said: calibrationOf(said), odds: calibrationOf(odds) };
}
