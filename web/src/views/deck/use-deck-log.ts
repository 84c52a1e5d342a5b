import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { newId, type Contact, type Stop } from '@restless-shoal/core/logbook';
import { sendJson } from '../../api/client';
import { useTrip, type StoredContact, type StoredStop, type TripDetail } from '../../api/queries';
import { useWaterState } from '../../state/water';
import type { DayEntry } from './day-strip';
import type { TripStart } from './start-trip';
import type { WaterReading } from './conditions-form';

type NewContact = Partial<Contact> & Pick<Contact, 'latitude' | 'longitude' | 'kind'>;

const pad = (n: number): string => String(n).padStart(2, '0');

/** Writes of the Deck. Each record has its identity before the server sees it; sending it twice changes nothing. */
export function useDeckLog() {
  const { water, running, chart, log } = useWaterState();
  const queries = useQueryClient();
  const trip = useTrip(running?.id ?? null);
  const id = running?.id ?? null;

  /** What else changes when something is logged. */
  const changed = useCallback(async () => {
    await Promise.all(
      [
        ['trip', id],
        ['contacts', water.id],
        ['fit', water.id],
        ['looks', water.id],
      ].map((queryKey) => queries.invalidateQueries({ queryKey, refetchType: queryKey[0] === 'trip' ? 'active' : 'all' })),
    );
  }, [queries, id, water.id]);

  const show = useCallback(
    (change: (detail: TripDetail) => TripDetail) => {
      // An answer that is under way does not know the change yet and must not undo it.
      void queries.cancelQueries({ queryKey: ['trip', id] });
      return queries.setQueryData<TripDetail>(['trip', id], (before) => before && change(before));
    },
    [queries, id],
  );

  /** What could not be sent must not look as if it were logged. */
  const orHide = useCallback(
    (record: 'contacts' | 'stops', key: string, sent: Promise<unknown>) =>
      sent.catch((error: unknown) => {
        show((d) => ({ ...d, [record]: d[record].filter((r) => r.id !== key) }));
        throw error;
      }),
    [show],
  );

  const start = useCallback(
    async ({ purpose, goal }: TripStart) => {
      const now = new Date();
      const name = `${now.getUTCFullYear()}-${pad(now.getUTCMonth() + 1)}-${pad(now.getUTCDate())}`;
      const taken = log.trips.filter((t) => t.trip === name || t.trip.startsWith(`${name} `)).length;
      await sendJson('PUT', `/waters/${water.id}/trips/${newId()}`, {
        trip: taken ? `${name} ${taken + 1}` : name,
        start: now.toISOString(),
        end: null,
        purpose,
        goal,
      });
      await queries.invalidateQueries({ queryKey: ['log', water.id] });
      await queries.invalidateQueries({ queryKey: ['waters'] });
    },
    [queries, water.id, log.trips],
  );

  const end = useCallback(async () => {
    if (!running) return;
    const { trip: key, start: from, purpose, goal } = running;
    await sendJson('PUT', `/waters/${water.id}/trips/${running.id}`, {
      trip: key,
      start: from,
      end: new Date().toISOString(),
      purpose,
      goal,
    });
    await queries.invalidateQueries({ queryKey: ['log', water.id] });
    await changed();
  }, [queries, water.id, running, changed]);

  const mark = useCallback(
    async (contact: NewContact): Promise<string> => {
      const key = newId();
      const body = { time: new Date().toISOString(), contact: key, ...contact };
      show((d) => ({ ...d, contacts: [...d.contacts, { ...body, id: key } as StoredContact] }));
      await orHide('contacts', key, sendJson('PUT', `/trips/${id}/contacts/${key}`, body));
      void changed();
      return key;
    },
    [id, show, orHide, changed],
  );

  const nothing = useCallback(
    async (at: { latitude: number; longitude: number }, radius: number): Promise<string> => {
      const key = newId();
      const now = new Date().toISOString();
      const body: Partial<Stop> = { stop: key, start: now, end: now, ...at, radius_m: radius, outcome: 'nothing' };
      show((d) => ({ ...d, stops: [...d.stops, { ...body, id: key } as StoredStop] }));
      await orHide('stops', key, sendJson('PUT', `/trips/${id}/stops/${key}`, body));
      void changed();
      return key;
    },
    [id, show, orHide, changed],
  );

  const remove = useCallback(
    async (record: 'contacts' | 'stops', key: string) => {
      show((d) => ({ ...d, [record]: d[record].filter((r) => r.id !== key) }));
      await sendJson('DELETE', `/trips/${id}/${record}/${key}`);
      void changed();
    },
    [id, show, changed],
  );

  const read = useCallback(
    async (reading: WaterReading) => {
      await sendJson('POST', `/trips/${id}/conditions`, { time: new Date().toISOString(), ...reading });
      await queries.invalidateQueries({ queryKey: ['log', water.id] });
      await changed();
    },
    [queries, id, water.id, changed],
  );

  const entries = useMemo((): DayEntry[] => {
    const detail = trip.data;
    if (!detail) return [];
    return [
      ...detail.contacts.map((contact): DayEntry => ({ kind: 'contact', at: Date.parse(contact.time), contact })),
      ...detail.stops.map((stop): DayEntry => ({ kind: 'stop', at: Date.parse(stop.start), stop, depth: null })),
    ].sort((a, b) => a.at - b.at);
  }, [trip.data]);

  return { detail: trip.data ?? null, failed: trip.error, entries, start, end, mark, nothing, remove, read, hasChart: chart !== null };
}
