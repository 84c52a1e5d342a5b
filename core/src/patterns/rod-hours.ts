import { sunHeight } from '../lake';
import { isBite, type Reading, type Response, type Stop } from '../logbook';
import { seeded } from '../numbers';

/** What rates by rod-hour are worked out from. */
export interface RodHoursInput {
  trips: { id: string; start: string; end: string | null; /** Whether the boat's way was recorded on it. */ tracked: boolean }[];
  stops: (Stop & { trip_id: string })[];
  responses: (Response & { trip_id: string })[];
  readings: (Reading & { trip_id: string })[];
  /** Depth of the water at a place and time (ms), m; NaN where no chart says. */
  depthAt: (latitude: number, longitude: number, at: number) => number;
  /** Whether a name is the species asked for. */
  is: (species: string | null) => boolean;
  latitude: number;
  longitude: number;
  /** Month and hour on the water. */
  localOf: (at: number) => { month: number; clock: string };
}

/** A rate with its 80 % interval, by resampling trips. Fish and bites per rod-hour; per trip where no hours are logged. */
export interface Rate {
  trips: number;
  /** Rod-hours; 0 where none are logged. */
  hours: number;
  fish: number;
  bites: number;
  /** Fish per unit of effort; NaN where no effort belongs to the class. */
  rate: number;
  low: number;
  high: number;
}

export type RateKind = 'month' | 'temperature' | 'clarity' | 'wind' | 'light' | 'depth' | 'lure';

/** A class of a covariate: a span in SI, or a name. */
export interface RateClass extends Rate {
  from: number | null;
  to: number | null;
  name: string | null;
}

export interface RateTable {
  kind: RateKind;
  classes: RateClass[];
  /** Why there are counts and no rates: nobody logged how long each was fished. */
  countsOnly: boolean;
}

export interface RodHours {
  /** What fish are counted against. */
  unit: 'rod-hour' | 'trip';
  overall: Rate;
  tables: RateTable[];
  /** Fish without a place, and rod-hours of trips that say no place. */
  placeless: number;
}

const HOUR = 3_600_000;

/** Time spent fishing at one place, or on a trip that says no place. */
interface Session {
  trip: string;
  at: number;
  timed: boolean;
  /** Rod-hours. */
  hours: number;
  depth: number;
  placed: boolean;
  responses: Response[];
}

const STEPS: Partial<Record<RateKind, number[]>> = {
  temperature: [0, 4, 8, 12, 16, 20, 24, 45],
  clarity: [0, 0.8, 1.5, 2.5, 4, 80],
  wind: [0, 1.5, 4, 7, 100],
  depth: [0, 2, 4, 6, 9, 13, 500],
};

/** Resamplings of trips for an interval. */
const DRAWS = 300;

/** The sessions of a log: each stop that was fished, and what trips without a track say beside their stops. */
function sessionsOf({ trips, stops, responses, depthAt, localOf }: RodHoursInput): Session[] {
  const out: Session[] = [];
  for (const trip of trips) {
    const own = stops.filter((s) => s.trip_id === trip.id && s.outcome !== 'unfishable' && !(s.outcome === 'nothing' && s.start === s.end));
    const caught = responses.filter((r) => r.trip_id === trip.id);
    const start = Date.parse(trip.start);
    // Noon to the millisecond is what a table without times of day was given.
    const timed = localOf(start).clock !== '12:00:00.000';
    let spent = 0;
    let rods = 0;
    for (const stop of own) {
      const length = (Date.parse(stop.end) - Date.parse(stop.start)) / HOUR;
      spent += length;
      rods = Math.max(rods, stop.rods ?? 1);
      const at = (Date.parse(stop.start) + Date.parse(stop.end)) / 2;
      out.push({
        trip: trip.id,
        at,
        timed,
        hours: length * (stop.rods ?? 1),
        depth: depthAt(stop.latitude, stop.longitude, at),
        placed: true,
        responses: caught.filter((r) => r.stop === stop.stop),
      });
    }
    const loose = caught.filter((r) => !own.some((s) => s.stop === r.stop));
    const length = trip.end === null ? 0 : (Date.parse(trip.end) - start) / HOUR;
    // On a tracked trip the rest of the time was searching, not fishing.
    const rest = trip.tracked ? 0 : Math.max(0, length - spent);
    if (loose.length || rest > 1 / 60)
      out.push({
        trip: trip.id,
        at: start + (length * HOUR) / 2,
        timed,
        hours: rest * Math.max(1, rods),
        depth: NaN,
        placed: false,
        responses: loose,
      });
  }
  return out;
}

/** Sums of sessions, trip by trip. */
interface TripSum {
  hours: number;
  fish: number;
  bites: number;
}

function rateOf(sessions: Session[], perHour: boolean, is: RodHoursInput['is'], draws = DRAWS): Rate {
  const byTrip = new Map<string, TripSum>();
  for (const s of sessions) {
    const sum = byTrip.get(s.trip) ?? { hours: 0, fish: 0, bites: 0 };
    sum.hours += s.hours;
    for (const r of s.responses) {
      if (!is(r.species)) continue;
      if (r.response === 'landed') sum.fish++;
      if (isBite(r.response)) sum.bites++;
    }
    byTrip.set(s.trip, sum);
  }
  const list = [...byTrip.values()];
  const total = (rows: TripSum[]): TripSum =>
    rows.reduce((a, b) => ({ hours: a.hours + b.hours, fish: a.fish + b.fish, bites: a.bites + b.bites }), { hours: 0, fish: 0, bites: 0 });
  const all = total(list);
  const effort = (sum: TripSum, n: number): number => (perHour ? sum.hours : n);
  const rate = all.fish / effort(all, list.length);
  const rates: number[] = [];
  if (list.length > 1) {
    const random = seeded(17);
    for (let k = 0; k < draws; k++) {
      const drawn = total(list.map(() => list[Math.floor(random() * list.length)]));
      const e = effort(drawn, list.length);
      if (e > 0) rates.push(drawn.fish / e);
    }
    rates.sort((a, b) => a - b);
  }
  const at = (p: number): number => (rates.length ? rates[Math.min(rates.length - 1, Math.floor(p * rates.length))] : NaN);
  return { trips: list.length, hours: all.hours, fish: all.fish, bites: all.bites, rate, low: at(0.1), high: at(0.9) };
}

/** Light by the height of the sun, degrees. */
const LIGHT: [string, number, number][] = [
  ['night', -90, -6],
  ['dawn or dusk', -6, 6],
  ['day', 6, 90],
];
/** Lures that were used so often are classes of their own. */
const MOST_LURES = 8;

/**
 * Bites and fish per rod-hour by what the log says of each trip and stop, with trips as units: for logs of stops and
 * catches alone, where nothing was scanned. Where no hours are logged, fish per trip.
 */
export function rodHours(input: RodHoursInput): RodHours {
  const { is, localOf, readings, latitude, longitude } = input;
  const sessions = sessionsOf(input);
  const hours = sessions.reduce((sum, s) => sum + s.hours, 0);
  const perHour = hours > 0.5;
  const counted = perHour ? sessions.filter((s) => s.hours > 0) : sessions;
  const readingOf = (s: Session, column: 'surface_temperature_c' | 'secchi_m' | 'wind_speed_ms'): number => {
    let best: { off: number; value: number } | null = null;
    for (const r of readings) {
      const value = r[column];
      if (r.trip_id !== s.trip || value === null) continue;
      const off = Math.abs(Date.parse(r.time) - s.at);
      if (!best || off < best.off) best = { off, value };
    }
    return best?.value ?? NaN;
  };
  const tables: RateTable[] = [];
  const spans = (kind: RateKind, valueOf: (s: Session) => number): void => {
    const edges = STEPS[kind]!;
    const classes = edges.slice(0, -1).flatMap((from, k): RateClass[] => {
      const within = counted.filter((s) => valueOf(s) >= from && valueOf(s) < edges[k + 1]);
      return within.length ? [{ from, to: edges[k + 1], name: null, ...rateOf(within, perHour, is) }] : [];
    });
    if (classes.length) tables.push({ kind, classes, countsOnly: false });
  };
  const months = Array.from({ length: 12 }, (_, k) => k + 1).flatMap((month): RateClass[] => {
    const within = counted.filter((s) => localOf(s.at).month === month);
    return within.length ? [{ from: month, to: month, name: null, ...rateOf(within, perHour, is) }] : [];
  });
  if (months.length) tables.push({ kind: 'month', classes: months, countsOnly: false });
  spans('temperature', (s) => readingOf(s, 'surface_temperature_c'));
  spans('clarity', (s) => readingOf(s, 'secchi_m'));
  spans('wind', (s) => readingOf(s, 'wind_speed_ms'));
  const light = LIGHT.flatMap(([name, from, to]): RateClass[] => {
    const within = counted.filter((s) => {
      const height = s.timed ? sunHeight(new Date(s.at), latitude, longitude) : NaN;
      return height >= from && height < to;
    });
    return within.length ? [{ from: null, to: null, name, ...rateOf(within, perHour, is) }] : [];
  });
  if (light.length) tables.push({ kind: 'light', classes: light, countsOnly: false });

  // How deep each session was, where a chart says so; else how deep the fish were, without an effort to hold against.
  const responses = sessions.flatMap((s) => s.responses.filter((r) => is(r.species)));
  if (counted.filter((s) => !Number.isNaN(s.depth)).length >= 0.8 * counted.length && counted.length) spans('depth', (s) => s.depth);
  else counts(tables, 'depth', responses);
  counts(tables, 'lure', responses);
  return {
    unit: perHour ? 'rod-hour' : 'trip',
    overall: rateOf(counted, perHour, is),
    tables,
    placeless: sessions
      .filter((s) => !s.placed)
      .reduce((sum, s) => sum + s.responses.filter((r) => r.response === 'landed' && is(r.species)).length, 0),
  };
}

/** Counts by what only fish say: nobody logs how long each lure, or each depth, was fished without one. */
function counts(tables: RateTable[], kind: 'depth' | 'lure', responses: Response[]): void {
  const count = (own: Response[], of: Pick<RateClass, 'from' | 'to' | 'name'>): RateClass[] =>
    own.length
      ? [{ ...of, trips: 0, hours: 0, rate: NaN, low: NaN, high: NaN, fish: own.filter((r) => r.response === 'landed').length, bites: own.filter((r) => isBite(r.response)).length }] // prettier-ignore
      : [];
  const edges = STEPS.depth!;
  const lures = new Map<string, Response[]>();
  for (const r of responses) if (r.lure) lures.set(r.lure.trim().toLowerCase(), [...(lures.get(r.lure.trim().toLowerCase()) ?? []), r]);
  const classes =
    kind === 'depth'
      ? edges.slice(0, -1).flatMap((from, k) => count(responses.filter((r) => r.depth_m !== null && r.depth_m >= from && r.depth_m < edges[k + 1]), { from, to: edges[k + 1], name: null })) // prettier-ignore
      : [...lures].sort((a, b) => b[1].length - a[1].length).slice(0, MOST_LURES).flatMap(([name, own]) => count(own, { from: null, to: null, name })); // prettier-ignore
  if (classes.length) tables.push({ kind, classes, countsOnly: true });
}
