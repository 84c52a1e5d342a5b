import { distance } from '../geo';
import { DEFAULT_RADIUS, isBite } from '../logbook';
import { bandOf, labelKey, type Label } from './label';
import type { LogContact, LogResponse, LogStop, LookTable } from './look-table';
import { shareOf, splitByTrips, type Share } from '../numbers';
import type { Moments } from './moments';

/** A response with what was true when it was made. */
export interface MoodRow {
  response: LogResponse;
  trip: number;
  /** The fish came for the lure: struck, landed or lost after a strike. */
  took: boolean;
  /** The group of each factor; absent where not known. */
  factors: Partial<Record<MoodFactor, Label>>;
}

export const MOOD_FACTORS = [
  'lure',
  'mass',
  'colour',
  'presentation',
  'casts',
  'depth',
  'light',
  'clarity',
  'water temperature',
  'bait near',
  'amount of bait',
  'cover',
  'size of pack',
  'form',
] as const;
export type MoodFactor = (typeof MOOD_FACTORS)[number];

/** How tight the bait was that lay within 200 m in the quarter of an hour before, as last marked there; null where none was. */
function baitNear(table: LookTable, byTrip: Map<number, LookTable['targets']>, trip: number, at: number, x: number, y: number) {
  let found: LookTable['targets'][number] | null = null;
  for (const t of byTrip.get(trip) ?? [])
    if (
      t.at <= at + 60_000 &&
      t.at > at - 45 * 60_000 &&
      Math.hypot(table.x[t.look] - x, table.y[t.look] - y) <= 200 &&
      (!found || t.at > found.at)
    )
      found = t;
  return found;
}

/** Sets each response beside the conditions, the target and the bait of its time. */
export function moodRows(
  table: LookTable,
  responses: LogResponse[],
  stops: LogStop[],
  contacts: Map<string, { count: number | null; form: string | null; cover: string | null }>,
  place: (row: { latitude: number; longitude: number }) => { x: number; y: number },
  moments: Moments,
): MoodRow[] {
  const tripAt = new Map(table.trips.map((t, i) => [t.id, i]));
  const stopAt = new Map(stops.map((s) => [`${s.trip_id} ${s.stop}`, s]));
  const bait = new Map<number, LookTable['targets']>();
  for (const t of table.targets) if (t.kind === 'bait') bait.set(table.trip[t.look], [...(bait.get(table.trip[t.look]) ?? []), t]);
  return responses.flatMap((response): MoodRow[] => {
    const trip = tripAt.get(response.trip_id);
    if (trip === undefined) return [];
    const at = Date.parse(response.time);
    const moment = moments.at(at);
    const { conditions } = moment.day;
    const stop = response.stop ? stopAt.get(`${response.trip_id} ${response.stop}`) : undefined;
    const contact = response.contact ? contacts.get(`${response.trip_id} ${response.contact}`) : undefined;
    const near = stop && bait.has(trip) ? baitNear(table, bait, trip, at, place(stop).x, place(stop).y) : null;
    const sun = moment.day.sunHeight;
    return [
      {
        response,
        trip,
        took: isBite(response.response),
        factors: {
          lure: response.lure ?? undefined,
          mass: bandOf(response.lure_mass_g, [5, 10, 15, 20, 30, 50], 'g'),
          colour: response.lure_colour ?? undefined,
          presentation: response.presentation ?? undefined,
          casts: bandOf(response.casts, [4, 8, 16], 'casts'),
          depth: bandOf(response.depth_m, [2, 4, 6, 8, 12], 'm'),
          light: sun < -6 ? 'night' : sun < 6 ? 'dawn or dusk' : sun < 25 ? 'low sun' : 'high sun',
          clarity: moment.clarityRead ? bandOf(conditions.secchi, [1, 2, 3, 5], 'm') : undefined,
          'water temperature': moment.surfaceRead ? bandOf(conditions.surface, [6, 10, 14, 18, 22], '°C') : undefined,
          'bait near': near?.contact?.density ?? (stop && bait.has(trip) && !near ? 'none seen' : undefined),
          'amount of bait': near ? bandOf(near.contact?.count, [50, 200], 'fish') : undefined,
          cover: contact ? (contact.cover && contact.cover !== 'none' ? 'at cover' : 'in the open') : undefined,
          'size of pack': bandOf(contact?.count, [2, 4, 8, 16], 'fish'),
          form: contact?.form ?? undefined,
        },
      },
    ];
  });
}

/** How often they took it, by one factor. */
export interface MoodLine {
  label: Label;
  share: Share;
  /** Chance of a difference as great from all others, trips taken as units. */
  p: number;
}

/** Responses below which a line is not spoken of. */
export const LEAST_RESPONSES = 8;

/** The share of fish shown a lure that took it, for each value of a factor with enough responses, the most common first. */
export function moodBy(rows: MoodRow[], factor: MoodFactor): { lines: MoodLine[]; few: number; notKnown: number } {
  const groups = new Map<string, { label: Label; group: MoodRow[] }>();
  let notKnown = 0;
  for (const row of rows) {
    const label = row.factors[factor];
    if (label === undefined) {
      notKnown++;
      continue;
    }
    const known = groups.get(labelKey(label));
    if (known) known.group.push(row);
    else groups.set(labelKey(label), { label, group: [row] });
  }
  const known = rows.filter((r) => r.factors[factor] !== undefined);
  let few = 0;
  const lines = [...groups.values()].flatMap(({ label, group }): MoodLine[] => {
    if (group.length < LEAST_RESPONSES) {
      few += group.length;
      return [];
    }
    const share = shareOf(group.map((r) => ({ trip: r.trip, yes: r.took })));
    const own = new Set(group);
    return [{ label, share, p: splitByTrips(known.map((r) => ({ trip: r.trip, yes: r.took, inside: own.has(r) }))) }];
  });
  return { lines: lines.sort((a, b) => b.share.n - a.share.n), few, notKnown };
}

/** A stop on the clock: rod-minutes before the first take, and after a fish was landed. */
export interface StopClock {
  trip: number;
  /** Takes and rod-minutes: in the first minutes, later on without a fish landed, and in the time after a landing. */
  early: [bites: number, minutes: number];
  late: [bites: number, minutes: number];
  after: [bites: number, minutes: number];
  landed: number;
  /** Whether fish had been marked there, on screen, before the stop began. */
  marked: boolean;
}

/** Minutes that count as the start of a stop, and for which a landing is taken to matter. */
export const EARLY_MINUTES = 8;
export const AFTER_MINUTES = 10;

/** A mark within this of a stop's circle was what the stop was for, m. */
const MARK_REACHES = 25;

/** Splits the time of each fished stop. */
export function stopClocks(table: LookTable, stops: LogStop[], responses: LogResponse[], contacts: LogContact[]): StopClock[] {
  const tripAt = new Map(table.trips.map((t, i) => [t.id, i]));
  const marks = new Map<string, LogContact[]>();
  for (const c of contacts)
    if (c.kind === 'fish' && c.view !== 'line') {
      const list = marks.get(c.trip_id);
      if (list) list.push(c);
      else marks.set(c.trip_id, [c]);
    }
  const of = new Map<string, LogResponse[]>();
  for (const r of responses) if (r.stop) of.set(`${r.trip_id} ${r.stop}`, [...(of.get(`${r.trip_id} ${r.stop}`) ?? []), r]);
  return stops.flatMap((stop): StopClock[] => {
    const trip = tripAt.get(stop.trip_id);
    const [from, to] = [Date.parse(stop.start), Date.parse(stop.end)];
    if (trip === undefined || stop.outcome === 'unfishable' || !(to > from)) return [];
    const own = (of.get(`${stop.trip_id} ${stop.stop}`) ?? []).map((r) => ({ at: Date.parse(r.time), ...r })).sort((a, b) => a.at - b.at);
    const landings = own.filter((r) => r.response === 'landed').map((r) => r.at);
    const rods = stop.rods ?? 1;
    const clock: StopClock = { trip, early: [0, 0], late: [0, 0], after: [0, 0], landed: landings.length, marked: false };
    // Minute by minute: what part of the stop it is.
    const part = (at: number): [number, number] => {
      if (landings.some((l) => at > l && at <= l + AFTER_MINUTES * 60_000)) return clock.after;
      return at - from < EARLY_MINUTES * 60_000 ? clock.early : clock.late;
    };
    for (let at = from + 15_000; at < to; at += 30_000) part(at)[1] += rods / 2;
    for (const r of own) if (isBite(r.response) && r.at >= from && r.at <= to) part(r.at)[0]++;
    clock.marked = (marks.get(stop.trip_id) ?? []).some(
      (c) => Date.parse(c.time) <= from + 60_000 && distance(c, stop) <= (stop.radius_m ?? DEFAULT_RADIUS) + MARK_REACHES,
    );
    return [clock];
  });
}
