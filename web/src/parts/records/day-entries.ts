import type { StoredContact, StoredStop, TripDetail } from '../../api/queries';

/** A mark or a stop of a trip, with its moment, ms since 1970. */
export type DayEntry =
  { kind: 'contact'; at: number; contact: StoredContact } | { kind: 'stop'; at: number; stop: StoredStop; depth: number | null };

/** Marks and stops of a trip in order of time. */
export const dayEntries = ({ contacts, stops }: Pick<TripDetail, 'contacts' | 'stops'>): DayEntry[] =>
  [
    ...contacts.map((contact): DayEntry => ({ kind: 'contact', at: Date.parse(contact.time), contact })),
    ...stops.map((stop): DayEntry => ({ kind: 'stop', at: Date.parse(stop.start), stop, depth: null })),
  ].sort((a, b) => a.at - b.at);
