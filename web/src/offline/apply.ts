import type { Body, DayPlan } from '@restless-shoal/core/contract';
import { emptyRow } from '@restless-shoal/core/logbook';
import type { LoggedTrip, PlanPlace, Spot, SpotYield, StoredGear, TripDetail, TripRow, WaterLog } from '../api/queries';
import type { Entry, OutboxState } from './outbox';

/** What of the outbox an answer of the server cannot hold yet: what waits, and what was sent since it was asked for. */
export const since = ({ waiting, sent }: OutboxState, asOf: number): Entry[] =>
  [...sent.filter((e) => e.sentAt! >= asOf), ...waiting.filter((e) => e.refused === null)].sort((a, b) => a.seq - b.seq);

/** Whether a write was refused because what it changes was changed elsewhere meanwhile. */
export const isConflict = ({ refused, refusedAs }: Entry): boolean => refused !== null && refusedAs === 'changed-elsewhere';
/** The path of a write that does not mind what was changed meanwhile. */
export const withoutBase = (path: string): string => path.replace(/[?]base=\d+$/, '');

/** What many edits sent as one come to, one by one. */
function oneByOne(entry: Entry): Pick<Entry, 'method' | 'path' | 'body'>[] {
  const trip = /^\/trips\/([^/]+)\/records$/.exec(entry.path)?.[1];
  if (trip === undefined) return [entry];
  return (entry.body as Body<'POST /trips/:trip/records'>).edits.map(({ record, id, done, row }) => ({
    method: done === 'deleted' ? 'DELETE' : 'PUT',
    path: `/trips/${trip}/${record}/${id}`,
    body: row,
  }));
}

/** A trip as it will be once everything that waits has reached the server. */
export function appliedTrip(detail: TripDetail, entries: Entry[]): TripDetail {
  let out = detail;
  for (const { method, path, body } of entries.flatMap(oneByOne)) {
    const match = /^\/trips\/([^/]+)\/(contacts|stops|responses|photos)\/([^/?]+)(?:\/restore)?(?:\?.*)?$/.exec(path);
    if (!match || match[1] !== detail.trip.id) continue;
    const record = match[2] as 'contacts' | 'stops' | 'responses' | 'photos';
    const others = (out[record] as { id: string }[]).filter((r) => r.id !== match[3]);
    // Of a picture its size is known by the server alone.
    const { bytes, width, height } = out.photos.find((p) => p.id === match[3]) ?? {};
    const more = record === 'photos' ? { bytes, width, height } : {};
    const rows = method === 'DELETE' ? others : [...others, { ...more, ...(body as object), id: match[3] }];
    out = { ...out, [record]: rows };
  }
  return out;
}

/** The list of trips without those that this device has deleted, and with what it made of the others. */
export function appliedTrips(trips: LoggedTrip[], entries: Entry[]): LoggedTrip[] {
  let out = trips;
  for (const { method, path, body } of entries) {
    const id = /^\/waters\/[^/]+\/trips\/([^/]+)$/.exec(path)?.[1];
    if (id === undefined) continue;
    out =
      method === 'DELETE' ? out.filter((t) => t.id !== id) : out.map((t) => (t.id === id ? { ...t, ...(body as Partial<TripRow>) } : t));
  }
  return out;
}

/** Whether a write begins or ends a trip, or is a reading or a profile of the water. */
export const ofLog = ({ path }: Entry, water: string): boolean =>
  path.startsWith(`/waters/${water}/trips/`) || /^\/trips\/[^/]+\/(conditions|profiles|records)(\/|$)/.test(path);

/** The log of a water with the trips begun or ended and the readings and profiles taken on this device. */
export function appliedLog(log: WaterLog, water: string, entries: Entry[]): WaterLog {
  if (!entries.length) return log;
  let { trips, readings, profiles } = log;
  for (const { method, path, body } of entries.flatMap(oneByOne)) {
    const trip = new RegExp(`^/waters/${water}/trips/([^/]+)(?:/restore)?$`).exec(path)?.[1];
    if (trip && method === 'DELETE') {
      // With what was read of the water on it: the day goes by that no more.
      const gone = trips.find((t) => t.id === trip)?.trip;
      trips = trips.filter((t) => t.id !== trip);
      readings = readings.filter((r) => r.trip !== gone);
      profiles = profiles.filter((p) => p.trip !== gone);
    } else if (trip) {
      const row = { ...(body as Omit<TripRow, 'id'>), id: trip };
      trips = trips.some((t) => t.id === trip) ? trips.map((t) => (t.id === trip ? { ...t, ...row } : t)) : [...trips, row];
    }
    const one = /^\/trips\/([^/]+)\/conditions\/([^/?]+)/.exec(path);
    if (one) {
      const own = trips.find((t) => t.id === one[1])?.trip;
      const others = readings.filter((r) => r.id !== one[2]);
      const row = { ...emptyRow('conditions'), ...(body as WaterLog['readings'][number]), trip: own ?? '', id: one[2] };
      readings =
        method === 'DELETE' || own === undefined ? others : [...others, row].sort((a, b) => Date.parse(a.time) - Date.parse(b.time));
      continue;
    }
    const [, of, what] = /^\/trips\/([^/]+)\/(conditions|profiles)$/.exec(path) ?? [];
    const key = trips.find((t) => t.id === of)?.trip;
    if (key !== undefined && what === 'profiles') {
      const known = (row: WaterLog['profiles'][number]): string => `${row.trip} ${row.profile} ${row.depth_m}`;
      const there = new Set(profiles.map(known));
      const rows = (body as WaterLog['profiles']).map((row) => ({ ...emptyRow('profiles'), ...row, trip: key }));
      profiles = [...profiles, ...rows.filter((row) => !there.has(known(row)))];
      continue;
    }
    const reading = body as WaterLog['readings'][number];
    if (key !== undefined && !readings.some((r) => r.trip === key && r.time === reading.time))
      readings = [...readings, { ...emptyRow('conditions'), ...reading, trip: key }].sort(
        (a, b) => Date.parse(a.time) - Date.parse(b.time),
      );
  }
  return { ...log, trips, readings, profiles };
}

/** Spots with those that this device has added, changed or deleted. */
export function appliedSpots(spots: SpotYield[], water: string, entries: Entry[]): SpotYield[] {
  let out = spots;
  for (const { method, path, body } of entries) {
    const id = new RegExp(`^/waters/${water}/spots/([^/]+)`).exec(path)?.[1];
    if (id === undefined) continue;
    const was = out.find((s) => s.id === id) ?? { stops: 0, minutes: 0, bites: 0, landed: [], last: null, months: [] };
    const others = out.filter((s) => s.id !== id);
    out =
      method === 'DELETE'
        ? others
        : [...others, { ...was, ...(body as Omit<Spot, 'id'>), id }].sort((a, b) => a.name.localeCompare(b.name));
  }
  return out;
}

/** Gear with that which this device has added, changed or deleted. */
export function appliedGear(gear: StoredGear[], entries: Entry[]): StoredGear[] {
  let out = gear;
  for (const { method, path, body } of entries) {
    const id = /^\/gear\/([^/?]+)/.exec(path)?.[1];
    if (id === undefined) continue;
    const others = out.filter((g) => g.id !== id);
    out = method === 'DELETE' ? others : [...others, { ...(body as StoredGear), id }].sort((a, b) => a.name.localeCompare(b.name));
  }
  return out;
}

/** The plan of the day as this device last made or dropped it. */
export function appliedDayPlan(plans: DayPlan[], water: string, entries: Entry[]): DayPlan | null {
  let out = plans.at(0) ?? null;
  for (const { method, path, body } of entries) {
    if (path !== `/waters/${water}/day-plan`) continue;
    if (method === 'DELETE') out = null;
    else if (!out || (body as DayPlan).made > out.made) out = body as DayPlan;
  }
  return out;
}

/** The places to go to, with those put there or taken off on this device. */
export function appliedPlan(places: PlanPlace[], water: string, entries: Entry[]): PlanPlace[] {
  let out = places;
  for (const { method, path, body } of entries) {
    if (!path.startsWith(`/waters/${water}/plan`)) continue;
    const gone = method === 'DELETE' ? path.split('/').at(-1) : null;
    const added = method === 'POST' ? (body as { places: PlanPlace[] }).places : [];
    out = [...out.filter((p) => p.id !== gone), ...added.filter((a) => !out.some((p) => p.id === a.id))];
  }
  return out;
}
