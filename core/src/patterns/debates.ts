import { VIEWS } from '../logbook';
import type { CovariateValues } from './covariates';
import type { LogContact, LookTable } from './look-table';
import type { MoodRow, StopClock } from './mood';
import type { Settled } from './signs';
import { makeClusters, rateRatio, splitByTrips, studentQuantile, type RateRatio } from '../numbers';
import type { Selected } from './question';
import { INTERVAL } from './selection';

/** What one side of a debate has to show. */
export type Shown =
  | { as: 'bites per rod-hour'; bites: number; hours: number; trips?: number }
  | { as: 'contacts per hectare'; contacts: number; hectares: number; looks: number }
  | { as: 'share'; yes: number; of: number }
  | { as: 'shallow to deep'; ratio: number; depth: number; contacts: [shallow: number, deep: number] }
  | { as: 'species among'; species: string; share: number; of: number };

export interface Side {
  shows: Shown;
  /** Minutes, looks, contacts or trips that it rests on. */
  n: number;
}

/** Why a debate has no answer yet, and what it would take. */
export type Lacks =
  | { lacks: 'sides'; missing: (0 | 1)[] }
  | { lacks: 'trips' }
  | { lacks: 'record' }
  | { lacks: 'settings'; trips: number; retuned: number }
  | { lacks: 'cores'; settled: number; strong: number };

export const DEBATES = [
  'seen',
  'minutes',
  'repeat',
  'dawn',
  'roamers',
  'side',
  'school',
  'survey',
  'range',
  'gain',
  'core',
  'bait',
  'forage',
] as const;
export type DebateKey = (typeof DEBATES)[number];

/** A question that practitioners answer differently, with what this log says; the page words it. */
export interface Debate {
  key: DebateKey;
  sides: [Side, Side] | null;
  /** How many times more the first side shows than the second, with its interval; null where nothing can be set against each other. */
  ratio: { value: number; low: number; high: number; trips: number } | null;
  verdict: 'first' | 'second' | 'open' | 'silent';
  /** Where it is silent. */
  lacks: Lacks | null;
  /** Where it is open: how many times as long a log would tell a difference like this one, or one of a quarter if that is more. */
  longer: { times: number; difference: 'this' | 'a quarter' } | null;
  /** Where species were counted among two groups: the chance of as great a difference, and the targets. */
  among: { species: string; p: number; settled: number } | null;
}

const QUARTER = Math.log(1.25);

/** About how many times longer a log has to be to tell a difference like the one seen, or one of a quarter if that is smaller. */
function longer(ratio: number, error: number, df: number): NonNullable<Debate['longer']> {
  const seen = Math.abs(Math.log(ratio));
  const times = ((studentQuantile((1 + INTERVAL) / 2, Math.max(1, df)) * error) / Math.max(seen, QUARTER)) ** 2;
  return { times, difference: seen > QUARTER ? 'this' : 'a quarter' };
}

function judge(
  key: DebateKey,
  sides: [Side, Side],
  found: { ratio: number; low: number; high: number; error: number; trips: number; df: number },
): Debate {
  if (!(found.error > 0) || found.df < 1 || sides.some((s) => s.n === 0)) {
    const missing = ([0, 1] as const).filter((k) => sides[k].n === 0);
    return { ...silent(key, missing.length ? { lacks: 'sides', missing } : { lacks: 'trips' }), sides };
  }
  const { ratio, low, high, trips } = found;
  const verdict = low > 1 ? 'first' : high < 1 ? 'second' : 'open';
  return {
    key,
    sides,
    ratio: { value: ratio, low, high, trips },
    verdict,
    lacks: null,
    longer: verdict === 'open' ? longer(ratio, found.error, found.df) : null,
    among: null,
  };
}

const silent = (key: DebateKey, lacks: Lacks): Debate => ({
  key,
  sides: null,
  ratio: null,
  verdict: 'silent',
  lacks,
  longer: null,
  among: null,
});

/** Bites for rod-minutes on either side, within trips. */
function timeRates(clocks: StopClock[], sides: [(c: StopClock) => [number, number], (c: StopClock) => [number, number]]) {
  const rows = clocks
    .flatMap((c) => sides.map((of, side) => ({ trip: c.trip, side, bites: of(c)[0], minutes: of(c)[1] })))
    .filter((r) => r.minutes > 0);
  const names = [...new Set(rows.map((r) => r.trip))];
  const trip = Int32Array.from(rows, (r) => names.indexOf(r.trip));
  // Stops have no place that they share with others here: each is its own.
  const found = rateRatio(
    rows.map((r) => r.bites),
    rows.map((r) => r.minutes / 60),
    rows.map((r) => (r.side === 0 ? 1 : 0)),
    makeClusters(trip, names.length, trip, names.length),
  );
  const side = (k: 0 | 1): Side => ({
    n: Math.round(found.effort[k] * 60),
    shows: { as: 'bites per rod-hour', bites: found.used[k], hours: found.effort[k] },
  });
  return { found, side };
}

/** Shares on either side, compared as rates within trips. */
function shares(rows: { trip: number; side: 0 | 1; yes: boolean }[]) {
  const names = [...new Set(rows.map((r) => r.trip))];
  const trip = Int32Array.from(rows, (r) => names.indexOf(r.trip));
  const found = rateRatio(
    rows.map((r) => (r.yes ? 1 : 0)),
    rows.map(() => 1),
    rows.map((r) => (r.side === 0 ? 1 : 0)),
    makeClusters(trip, names.length, trip, names.length),
    // Few trips have both: all of the log is one stratum.
    { strata: { of: new Int32Array(rows.length), count: 1 } },
  );
  const side = (k: 0 | 1): Side => {
    const own = rows.filter((r) => r.side === k);
    return { n: own.length, shows: { as: 'share', yes: own.filter((r) => r.yes).length, of: own.length } };
  };
  return { found: { ...found, trips: names.length }, side };
}

/** All that the debates are answered from. */
export interface DebateInputs {
  selected: Selected;
  values: CovariateValues;
  clocks: StopClock[];
  mood: MoodRow[];
  settled: Settled[];
  contacts: LogContact[];
  /** Chance that marks last: shares found again within a day, at cover and in the open. */
  again: { atCover: boolean; trip: number; yes: boolean }[];
}

/** The debates that are questions, each with this log's answer. */
export function debates(inputs: DebateInputs): Debate[] {
  return [
    seenOrUnseen(inputs),
    fewMinutes(inputs),
    repeatTheCast(inputs),
    shallowAtDawn(inputs),
    roamersOrCover(inputs),
    sideOfCover(inputs),
    bigSchoolOrSmall(inputs),
    surveyFirst(inputs),
    rangeShort(inputs),
    gain(inputs),
    core(inputs),
    baitTight(inputs),
    // How like the forage a lure was is not logged.
    silent('forage', { lacks: 'record' }),
  ];
}

/** Bites and rod-minutes of a whole stop. */
const bites = ({ early, late, after }: StopClock): [number, number] => [early[0] + late[0] + after[0], early[1] + late[1] + after[1]];

function seenOrUnseen({ clocks }: DebateInputs): Debate {
  const none: [number, number] = [0, 0];
  const { found, side } = timeRates(clocks, [(c) => (c.marked ? bites(c) : none), (c) => (c.marked ? none : bites(c))]);
  return judge('seen', [side(0), side(1)], found);
}

function fewMinutes({ clocks }: DebateInputs): Debate {
  const { found, side } = timeRates(clocks, [(c) => c.early, (c) => c.late]);
  return judge('minutes', [side(0), side(1)], found);
}

function repeatTheCast({ clocks }: DebateInputs): Debate {
  const { found, side } = timeRates(clocks, [(c) => c.after, (c) => [c.early[0] + c.late[0], c.early[1] + c.late[1]]]);
  return judge('repeat', [side(0), side(1)], found);
}

/** Rate ratio of shallow against deep in low light over that by day: the low-light looks against the others, among the shallow, within trips. */
function shallowAtDawn({ selected, values }: DebateInputs): Debate {
  const { scans, used, effort, clusters } = selected;
  const [depth, sun] = [values.of('depth'), values.of('sun')];
  const weighed = Array.from(scans, (i, k) => [depth[i], used[k]] as const).sort((a, b) => a[0] - b[0]);
  const all = weighed.reduce((s, w) => s + w[1], 0);
  let [middle, run] = [NaN, 0];
  for (const [d, u] of weighed)
    if ((run += u) >= all / 2) {
      middle = d;
      break;
    }
  const low = Array.from(scans, (i) => sun[i] < 8);
  const part = (want: boolean): RateRatio =>
    rateRatio(
      used,
      Float64Array.from(effort, (e, k) => (low[k] === want ? e : 0)),
      Uint8Array.from(scans, (i) => (depth[i] < middle ? 1 : 0)),
      clusters,
    );
  const [dawn, day] = [part(true), part(false)];
  const error = Math.hypot(dawn.error, day.error);
  const df = Math.min(dawn.df, day.df);
  const ratio = dawn.ratio / day.ratio;
  const t = df >= 1 ? studentQuantile((1 + INTERVAL) / 2, df) : NaN;
  const side = (r: RateRatio): Side => ({
    n: r.df >= 1 ? r.used[0] + r.used[1] : 0,
    shows: { as: 'shallow to deep', ratio: r.ratio, depth: middle, contacts: r.used },
  });
  return judge('dawn', [side(dawn), side(day)], {
    ratio,
    error,
    df,
    low: ratio * Math.exp(-t * error),
    high: ratio * Math.exp(t * error),
    trips: Math.min(dawn.trips, day.trips),
  });
}

function roamersOrCover({ again }: DebateInputs): Debate {
  const { found, side } = shares(again.map((r) => ({ trip: r.trip, side: r.atCover ? 0 : 1, yes: r.yes })));
  return judge('roamers', [side(0), side(1)], found);
}

const UP = /\b(up|against)\b/i;
const DOWN = /\b(down|lee|behind|with)\b/i;

function sideOfCover({ mood, contacts }: DebateInputs): Debate {
  const sideOf = new Map(contacts.filter((c) => c.side_of_cover).map((c) => [`${c.trip_id} ${c.contact ?? c.id}`, c.side_of_cover!]));
  const rows = mood.flatMap((r): { trip: number; side: 0 | 1; yes: boolean }[] => {
    const at = r.response.contact ? sideOf.get(`${r.response.trip_id} ${r.response.contact}`) : undefined;
    if (!at || UP.test(at) === DOWN.test(at)) return [];
    return [{ trip: r.trip, side: UP.test(at) ? 0 : 1, yes: r.took }];
  });
  const { found, side } = shares(rows);
  return judge('side', [side(0), side(1)], found);
}

function bigSchoolOrSmall({ selected }: DebateInputs): Debate {
  const once = new Set<number>();
  const rows = selected.targets.flatMap((t): { trip: number; side: 0 | 1; yes: boolean }[] => {
    if (once.has(t.number) || !t.size || t.contact?.count == null) return [];
    once.add(t.number);
    return [{ trip: selected.table.trip[t.look], side: t.count <= 3 ? 0 : 1, yes: t.size === 'large' }];
  });
  const { found, side } = shares(rows);
  return judge('school', [side(0), side(1)], found);
}

/** Trips that only looked at first against those that fished early: bites for the hours fished. Between trips, so days differ too. */
function surveyFirst({ selected, clocks }: DebateInputs): Debate {
  const { table, scans } = selected;
  const scanned = new Set(Array.from(scans, (i) => table.trip[i]));
  const fishedEarly = new Set<number>();
  for (let i = 0; i < table.count; i++)
    if (table.kind[i] === 1 && table.effort[i] > 0 && table.from[i] - table.trips[table.trip[i]].start < 45 * 60_000)
      fishedEarly.add(table.trip[i]);
  const rows = clocks.filter((c) => scanned.has(c.trip)).map((c) => ({ trip: c.trip, bites: bites(c)[0], hours: bites(c)[1] / 60 }));
  const names = [...new Set(rows.map((r) => r.trip))];
  const trip = Int32Array.from(rows, (r) => names.indexOf(r.trip));
  const found = rateRatio(
    rows.map((r) => r.bites),
    rows.map((r) => r.hours),
    rows.map((r) => (fishedEarly.has(r.trip) ? 0 : 1)),
    makeClusters(trip, names.length, trip, names.length),
    { strata: { of: new Int32Array(rows.length), count: 1 } },
  );
  const side = (k: 0 | 1): Side => ({
    n: found.looks[k],
    shows: {
      as: 'bites per rod-hour',
      bites: found.used[k],
      hours: found.effort[k],
      trips: names.filter((t) => fishedEarly.has(t) === (k === 1)).length,
    },
  });
  return judge('survey', [side(0), side(1)], { ...found, trips: names.length });
}

/** A range up to this is a short one, m. */
export const SHORT_RANGE = 22;

function rangeShort({ selected, values }: DebateInputs): Debate {
  const { table, scans, used, clusters } = selected;
  const depth = values.of('depth');
  const at = (k: number): number => (table.view[scans[k]] >= 0 ? table.reach[scans[k]] : NaN);
  const side = Array.from(scans, (_, k) => k).filter(
    (k) => at(k) > 0 && ['side-scan', 'forward-facing'].includes(viewName(table, scans[k])),
  );
  const strata = new Map<number, number>();
  const of = Int32Array.from(side, (k) => {
    const key = clusters.trip[k] * 50 + Math.floor(depth[scans[k]] / 3);
    if (!strata.has(key)) strata.set(key, strata.size);
    return strata.get(key)!;
  });
  // Water looked at, as it is: what the range costs in detection is the question.
  const found = rateRatio(
    side.map((k) => used[k]),
    side.map((k) => table.effort[scans[k]]),
    side.map((k) => (at(k) <= SHORT_RANGE ? 1 : 0)),
    makeClusters(
      Int32Array.from(side, (k) => clusters.trip[k]),
      clusters.trips,
      Int32Array.from(side, (k) => clusters.place[k]),
      clusters.places,
    ),
    { strata: { of, count: strata.size } },
  );
  const sideOf = (k: 0 | 1): Side => ({
    n: found.looks[k],
    shows: { as: 'contacts per hectare', contacts: found.used[k], hectares: found.effort[k], looks: found.looks[k] },
  });
  return judge('range', [sideOf(0), sideOf(1)], found);
}

const viewName = (table: LookTable, i: number): string => (VIEWS as readonly string[])[table.view[i]] ?? '';

function gain({ contacts }: DebateInputs): Debate {
  const byTrip = new Map<string, Set<string>>();
  for (const c of contacts) if (c.settings) byTrip.set(c.trip_id, (byTrip.get(c.trip_id) ?? new Set()).add(c.settings));
  const retuned = [...byTrip.values()].filter((s) => s.size > 1).length;
  // How many marks were true is known only where a fish was landed: however many trips, that is too few to tell.
  return silent('gain', { lacks: 'settings', trips: byTrip.size, retuned });
}

function core({ settled }: DebateInputs): Debate {
  const known = settled.filter((s) => s.signs.core !== null);
  const strong = known.filter((s) => s.signs.core === 'strong');
  if (known.length < 12 || !strong.length || strong.length === known.length)
    return silent('core', { lacks: 'cores', settled: known.length, strong: strong.length });
  const count = (name: string, list: Settled[]): number => list.filter((s) => s.was === name).length;
  const trips = [...new Set(known.map((s) => s.trip))];
  const ranked = [...new Set(known.map((s) => s.was))].map((name) => {
    const [a, c] = [count(name, strong), count(name, known) - count(name, strong)];
    const rows = known.map((s) => ({ trip: trips.indexOf(s.trip), yes: s.was === name, inside: s.signs.core === 'strong' }));
    return { name, p: splitByTrips(rows), share: a / strong.length, other: c / Math.max(1, known.length - strong.length) };
  });
  const best = ranked.sort((x, y) => x.p - y.p)[0];
  const enough = best.p * ranked.length < 0.1;
  const among = (share: number, of: number): Side => ({ n: of, shows: { as: 'species among', species: best.name, share, of } });
  return {
    ...silent('core', { lacks: 'trips' }),
    sides: [among(best.share, strong.length), among(best.other, known.length - strong.length)],
    verdict: enough ? (best.share > best.other ? 'first' : 'second') : 'open',
    lacks: null,
    among: { species: best.name, p: best.p, settled: known.length },
  };
}

function baitTight({ mood }: DebateInputs): Debate {
  const rows = mood.flatMap((r): { trip: number; side: 0 | 1; yes: boolean }[] => {
    const bait = r.factors['bait near'];
    return bait === 'loose' || bait === 'tight' ? [{ trip: r.trip, side: bait === 'tight' ? 0 : 1, yes: r.took }] : [];
  });
  const { found, side } = shares(rows);
  return judge('bait', [side(0), side(1)], found);
}
