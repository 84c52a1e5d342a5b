import { VIEWS } from '../logbook';
import type { CovariateValues } from './covariates';
import type { LogContact, LookTable } from './look-table';
import type { MoodRow, StopClock } from './mood';
import type { Settled } from './names';
import { fisherExact, makeClusters, rateRatio, shareOf, studentQuantile, type RateRatio } from './numbers';
import type { Selected } from './question';
import { INTERVAL } from './selection';

/** One side of a quarrel: what it has to show, in words with its numbers. */
export interface Side {
  words: string;
  shows: string;
  n: number;
}

/** A question that practitioners answer differently, with what this log says. */
export interface Quarrel {
  key: string;
  question: string;
  sides: [Side, Side] | null;
  /** How many times more the first side shows than the second, with its interval; null where nothing can be set against each other. */
  ratio: { value: number; low: number; high: number; trips: number } | null;
  verdict: 'first' | 'second' | 'open' | 'silent';
  /** The answer, or what it would take. */
  answer: string;
}

const digits = (v: number): string => (v >= 10 ? v.toFixed(0) : v >= 2 ? v.toFixed(1) : v.toFixed(2));

/** About how many times longer a log has to be to tell a difference like the one seen, or one of a quarter if that is smaller. */
function longer(ratio: number, error: number, df: number): number {
  const seen = Math.max(Math.abs(Math.log(ratio)), Math.log(1.25));
  return ((studentQuantile((1 + INTERVAL) / 2, Math.max(1, df)) * error) / seen) ** 2;
}

function judge(
  key: string,
  question: string,
  sides: [Side, Side],
  found: { ratio: number; low: number; high: number; error: number; trips: number; df: number },
  what: string,
): Quarrel {
  if (!(found.error > 0) || found.df < 1 || sides.some((s) => s.n === 0)) {
    const missing = sides.filter((s) => s.n === 0).map((s) => s.words);
    return {
      key,
      question,
      sides,
      ratio: null,
      verdict: 'silent',
      answer: missing.length
        ? `Nothing logged for: ${missing.join('; ')}. It takes both sides, on several trips.`
        : 'Too few trips with both sides to compare them within a day.',
    };
  }
  const { ratio, low, high, trips } = found;
  const interval = `${digits(low)}–${digits(high)} times`;
  const verdict = low > 1 ? 'first' : high < 1 ? 'second' : 'open';
  const more = longer(ratio, found.error, found.df);
  const answer =
    verdict === 'open'
      ? `No difference that this log can show (${interval} ${what}). ${more > 1.05 ? `About ${more < 10 ? digits(more) : Math.round(more)} times as long a log would tell ${Math.abs(Math.log(ratio)) > Math.log(1.25) ? 'a difference like this one' : 'a difference of a quarter'}.` : 'If there is one, it is small.'}`
      : `${sides[verdict === 'first' ? 0 : 1].words}: ${digits(verdict === 'first' ? ratio : 1 / ratio)} times ${what} (${verdict === 'first' ? interval : `${digits(1 / high)}–${digits(1 / low)} times`}).`;
  return { key, question, sides, ratio: { value: ratio, low, high, trips }, verdict, answer };
}

const silent = (key: string, question: string, answer: string): Quarrel => ({
  key,
  question,
  sides: null,
  ratio: null,
  verdict: 'silent',
  answer,
});

/** Takes for rod-minutes on either side, within trips. */
function timeRates(clocks: StopClock[], sides: [(c: StopClock) => [number, number], (c: StopClock) => [number, number]]) {
  const rows = clocks
    .flatMap((c) => sides.map((of, side) => ({ trip: c.trip, side, takes: of(c)[0], minutes: of(c)[1] })))
    .filter((r) => r.minutes > 0);
  const names = [...new Set(rows.map((r) => r.trip))];
  const trip = Int32Array.from(rows, (r) => names.indexOf(r.trip));
  // Stops have no place that they share with others here: each is its own.
  const found = rateRatio(
    rows.map((r) => r.takes),
    rows.map((r) => r.minutes / 60),
    rows.map((r) => (r.side === 0 ? 1 : 0)),
    makeClusters(trip, names.length, trip, names.length),
  );
  const side = (k: 0 | 1, words: string): Side => ({
    words,
    n: Math.round(found.effort[k] * 60),
    shows: `${digits(found.used[k] / Math.max(1e-9, found.effort[k]))} takes a rod-hour (${found.used[k]} in ${digits(found.effort[k])} h)`,
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
  const side = (k: 0 | 1, words: string): Side => {
    const share = shareOf(rows.filter((r) => r.side === k));
    return { words, n: share.n, shows: share.n ? `${Math.round(100 * share.share)} % of ${share.n}` : 'none' };
  };
  return { found: { ...found, trips: names.length }, side };
}

/** All that the quarrels are answered from. */
export interface QuarrelInputs {
  selected: Selected;
  values: CovariateValues;
  clocks: StopClock[];
  mood: MoodRow[];
  settled: Settled[];
  contacts: LogContact[];
  /** Chance that marks last: shares found again within a day, at cover and in the open. */
  again: { atCover: boolean; trip: number; yes: boolean }[];
}

/** The quarrels that are questions, each with this log's answer. */
export function quarrels(inputs: QuarrelInputs): Quarrel[] {
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
    silent(
      'forage',
      'Match the forage, or show something different?',
      'The log does not record how like the forage a lure was: it cannot tell. Lures are set against each other by name, mass and colour under “Bait and mood”.',
    ),
  ];
}

/** Takes and rod-minutes of a whole stop. */
const takes = ({ early, late, after }: StopClock): [number, number] => [early[0] + late[0] + after[0], early[1] + late[1] + after[1]];

function seenOrUnseen({ clocks }: QuarrelInputs): Quarrel {
  const none: [number, number] = [0, 0];
  const { found, side } = timeRates(clocks, [(c) => (c.marked ? takes(c) : none), (c) => (c.marked ? none : takes(c))]);
  return judge(
    'seen',
    'Fish only what you see, or a good place unseen?',
    [side(0, 'Fish seen first'), side(1, 'Place fished unseen')],
    found,
    'as many takes a rod-hour on the same trips',
  );
}

function fewMinutes({ clocks }: QuarrelInputs): Quarrel {
  const { found, side } = timeRates(clocks, [(c) => c.early, (c) => c.late]);
  return judge(
    'minutes',
    'A few minutes and go, or stay on them?',
    [side(0, 'The first 8 minutes'), side(1, 'The time after, before a fish is landed')],
    found,
    'as many takes a rod-hour on the same trips',
  );
}

function repeatTheCast({ clocks }: QuarrelInputs): Quarrel {
  const { found, side } = timeRates(clocks, [(c) => c.after, (c) => [c.early[0] + c.late[0], c.early[1] + c.late[1]]]);
  return judge(
    'repeat',
    'After a catch: repeat the cast, or move on?',
    [side(0, 'The 10 minutes after a landing'), side(1, 'The rest of the stop')],
    found,
    'as many takes a rod-hour on the same trips',
  );
}

/** Rate ratio of shallow against deep in low light over that by day: the low-light looks against the others, among the shallow, within trips. */
function shallowAtDawn({ selected, values }: QuarrelInputs): Quarrel {
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
  const side = (r: RateRatio, words: string): Side => ({
    words,
    n: r.df >= 1 ? r.used[0] + r.used[1] : 0,
    shows: Number.isFinite(r.ratio)
      ? `${digits(r.ratio)} times as many above ${digits(middle)} m as below (${r.used[0]} and ${r.used[1]} contacts)`
      : 'nothing to compare',
  });
  return judge(
    'dawn',
    'Shallow at dawn, or always deep?',
    [side(dawn, 'Shallower in low light'), side(day, 'Shallower by day')],
    { ratio, error, df, low: ratio * Math.exp(-t * error), high: ratio * Math.exp(t * error), trips: Math.min(dawn.trips, day.trips) },
    'as much shallow fish, for the same looking',
  );
}

function roamersOrCover({ again }: QuarrelInputs): Quarrel {
  const { found, side } = shares(again.map((r) => ({ trip: r.trip, side: r.atCover ? 0 : 1, yes: r.yes })));
  return judge(
    'roamers',
    'Chase roamers, or wait at cover?',
    [side(0, 'At cover, found again within a day'), side(1, 'In the open, found again within a day')],
    found,
    'as often found again',
  );
}

const UP = /\b(up|against)\b/i;
const DOWN = /\b(down|lee|behind|with)\b/i;

function sideOfCover({ mood, contacts }: QuarrelInputs): Quarrel {
  const sideOf = new Map(contacts.filter((c) => c.side_of_cover).map((c) => [`${c.trip_id} ${c.contact ?? c.id}`, c.side_of_cover!]));
  const rows = mood.flatMap((r): { trip: number; side: 0 | 1; yes: boolean }[] => {
    const at = r.response.contact ? sideOf.get(`${r.response.trip_id} ${r.response.contact}`) : undefined;
    if (!at || UP.test(at) === DOWN.test(at)) return [];
    return [{ trip: r.trip, side: UP.test(at) ? 0 : 1, yes: r.took }];
  });
  const { found, side } = shares(rows);
  return judge(
    'side',
    'Up-current or down-current side of the cover?',
    [side(0, 'Up-current side'), side(1, 'Down-current side')],
    found,
    'as many took it',
  );
}

function bigSchoolOrSmall({ selected }: QuarrelInputs): Quarrel {
  const once = new Set<number>();
  const rows = selected.targets.flatMap((t): { trip: number; side: 0 | 1; yes: boolean }[] => {
    if (once.has(t.number) || !t.size || t.contact?.count == null) return [];
    once.add(t.number);
    return [{ trip: selected.table.trip[t.look], side: t.count <= 3 ? 0 : 1, yes: t.size === 'large' }];
  });
  const { found, side } = shares(rows);
  return judge(
    'school',
    'The small pack with the big fish, or the biggest school?',
    [side(0, 'Packs of up to 3: large fish'), side(1, 'Packs of more: large fish')],
    found,
    'as often large',
  );
}

/** Trips that only looked at first against those that fished early: takes for the hours fished. Between trips, so days differ too. */
function surveyFirst({ selected, clocks }: QuarrelInputs): Quarrel {
  const { table, scans } = selected;
  const scanned = new Set(Array.from(scans, (i) => table.trip[i]));
  const fishedEarly = new Set<number>();
  for (let i = 0; i < table.count; i++)
    if (table.kind[i] === 1 && table.effort[i] > 0 && table.from[i] - table.trips[table.trip[i]].start < 45 * 60_000)
      fishedEarly.add(table.trip[i]);
  const rows = clocks.filter((c) => scanned.has(c.trip)).map((c) => ({ trip: c.trip, takes: takes(c)[0], hours: takes(c)[1] / 60 }));
  const names = [...new Set(rows.map((r) => r.trip))];
  const trip = Int32Array.from(rows, (r) => names.indexOf(r.trip));
  const found = rateRatio(
    rows.map((r) => r.takes),
    rows.map((r) => r.hours),
    rows.map((r) => (fishedEarly.has(r.trip) ? 0 : 1)),
    makeClusters(trip, names.length, trip, names.length),
    { strata: { of: new Int32Array(rows.length), count: 1 } },
  );
  const side = (k: 0 | 1, words: string): Side => ({
    words,
    n: found.looks[k],
    shows: `${digits(found.used[k] / Math.max(1e-9, found.effort[k]))} takes a rod-hour (${digits(found.effort[k])} h on ${names.filter((t) => fishedEarly.has(t) === (k === 1)).length} trips)`,
  });
  return judge(
    'survey',
    'Survey first, or fish first?',
    [side(0, 'Only looked for the first 45 minutes'), side(1, 'Fished within 45 minutes')],
    { ...found, trips: names.length },
    'as many takes a rod-hour',
  );
}

function rangeShort({ selected, values }: QuarrelInputs): Quarrel {
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
    side.map((k) => (at(k) <= 22 ? 1 : 0)),
    makeClusters(
      Int32Array.from(side, (k) => clusters.trip[k]),
      clusters.trips,
      Int32Array.from(side, (k) => clusters.place[k]),
      clusters.places,
    ),
    { strata: { of, count: strata.size } },
  );
  const say = (k: 0 | 1, words: string): Side => ({
    words,
    n: found.looks[k],
    shows: `${digits(found.used[k] / Math.max(1e-9, found.effort[k]))} a hectare (${found.looks[k]} looks)`,
  });
  return judge(
    'range',
    'Short range and fine detail, or long range and more water?',
    [say(0, 'Up to 22 m'), say(1, 'Farther')],
    found,
    'as many contacts a hectare',
  );
}

const viewName = (table: LookTable, i: number): string => (VIEWS as readonly string[])[table.view[i]] ?? '';

function gain({ contacts }: QuarrelInputs): Quarrel {
  const question = 'Gain left alone, or retuned all day?';
  const byTrip = new Map<string, Set<string>>();
  for (const c of contacts) if (c.settings) byTrip.set(c.trip_id, (byTrip.get(c.trip_id) ?? new Set()).add(c.settings));
  const retuned = [...byTrip.values()].filter((s) => s.size > 1).length;
  return silent(
    'gain',
    question,
    byTrip.size < 8
      ? `Settings are logged on ${byTrip.size} trip${byTrip.size === 1 ? '' : 's'}. It takes them with the marks on at least 8, some left alone and some retuned.`
      : `Settings are logged on ${byTrip.size} trips, retuned on ${retuned}. How many marks were true is known only where a fish was landed; that is too few to tell.`,
  );
}

function core({ settled }: QuarrelInputs): Quarrel {
  const question = 'Does a strong core mean one species more than another?';
  const known = settled.filter((s) => s.signs.core !== null);
  const strong = known.filter((s) => s.signs.core === 'strong');
  if (known.length < 12 || !strong.length || strong.length === known.length)
    return silent(
      'core',
      question,
      `${known.length} targets with a core were settled by a catch, a camera or an eye, ${strong.length} of them strong. It takes both kinds, a dozen at least.`,
    );
  const count = (name: string, list: Settled[]): number => list.filter((s) => s.was === name).length;
  const ranked = [...new Set(known.map((s) => s.was))].map((name) => {
    const [a, c] = [count(name, strong), count(name, known) - count(name, strong)];
    const [b, d] = [strong.length - a, known.length - strong.length - c];
    return { name, a, p: fisherExact(a, b, c, d), share: a / strong.length, other: c / Math.max(1, known.length - strong.length) };
  });
  const best = ranked.sort((x, y) => x.p - y.p)[0];
  const enough = best.p * ranked.length < 0.1;
  return {
    key: 'core',
    question,
    sides: [
      { words: 'Strong cores', shows: `${Math.round(100 * best.share)} % were ${best.name}`, n: strong.length },
      { words: 'Other cores', shows: `${Math.round(100 * best.other)} % were ${best.name}`, n: known.length - strong.length },
    ],
    ratio: null,
    verdict: enough ? (best.share > best.other ? 'first' : 'second') : 'open',
    answer: enough
      ? `On this water a strong core was ${best.name} ${best.share > best.other ? 'more' : 'less'} often than other cores (chance ${best.p < 0.01 ? 'under 1 %' : `${Math.round(100 * best.p)} %`}, ${known.length} settled targets).`
      : `No species stands out among strong cores (${known.length} settled targets).`,
  };
}

function baitTight({ mood }: QuarrelInputs): Quarrel {
  const rows = mood.flatMap((r): { trip: number; side: 0 | 1; yes: boolean }[] => {
    const bait = r.factors['bait near'];
    return bait === 'loose' || bait === 'tight' ? [{ trip: r.trip, side: bait === 'tight' ? 0 : 1, yes: r.took }] : [];
  });
  const { found, side } = shares(rows);
  return judge(
    'bait',
    'Tight bait about them: are they on the feed?',
    [side(0, 'Tight bait: took it'), side(1, 'Loose bait: took it')],
    found,
    'as many took it',
  );
}
