import { emptyRow } from '@restless-shoal/core/logbook';
import type { TripDetail, TripRow, WaterLog } from '../api/queries';
import type { Entry, OutboxState } from './outbox';

/** What of the outbox an answer of the server cannot hold yet: what waits, and what was sent since it was asked for. */
export const since = ({ waiting, sent }: OutboxState, asOf: number): Entry[] =>
  [...sent.filter((e) => e.sentAt! >= asOf), ...waiting.filter((e) => e.refused === null)].sort((a, b) => a.seq - b.seq);

/** Whether a write was refused because what it changes was changed elsewhere meanwhile. */
export const isConflict = ({ path, refused }: Entry): boolean => /[?]base=/.test(path) && /changed elsewhere/.test(refused ?? '');
/** The path of a write that does not mind what was changed meanwhile. */
export const withoutBase = (path: string): string => path.replace(/[?]base=\d+$/, '');

/** A trip as it will be once everything that waits has reached the server. */
export function appliedTrip(detail: TripDetail, entries: Entry[]): TripDetail {
  let out = detail;
  for (const { method, path, body } of entries) {
    const match = /^\/trips\/([^/]+)\/(contacts|stops|responses)\/([^/?]+)(?:\/restore)?(?:\?.*)?$/.exec(path);
    if (!match || match[1] !== detail.trip.id) continue;
    const record = match[2] as 'contacts' | 'stops' | 'responses';
    const others = (out[record] as { id: string }[]).filter((r) => r.id !== match[3]);
    const rows = method === 'DELETE' ? others : [...others, { ...(body as object), id: match[3] }];
    out = { ...out, [record]: rows };
  }
  return out;
}

/** Whether a write begins or ends a trip, or is a reading of the water. */
export const ofLog = ({ path }: Entry, water: string): boolean =>
  path.startsWith(`/waters/${water}/trips/`) || /^\/trips\/[^/]+\/conditions$/.test(path);

/** The log of a water with the trips begun or ended and the readings taken on this device. */
export function appliedLog(log: WaterLog, water: string, entries: Entry[]): WaterLog {
  if (!entries.length) return log;
  let { trips, readings, profiles } = log;
  for (const { method, path, body } of entries) {
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
    const of = /^\/trips\/([^/]+)\/conditions$/.exec(path)?.[1];
    const key = trips.find((t) => t.id === of)?.trip;
    const reading = body as WaterLog['readings'][number];
    if (key !== undefined && !readings.some((r) => r.trip === key && r.time === reading.time))
      readings = [...readings, { ...emptyRow('conditions'), ...reading, trip: key }].sort(
        (a, b) => Date.parse(a.time) - Date.parse(b.time),
      );
  }
  return { ...log, trips, readings, profiles };
}
