import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo } from 'react';
import { newId, type Contact, type Stop } from '@restless-shoal/core/logbook';
import { sendJson } from '../../api/client';
import { useTrip, type TripDetail, type WaterLog } from '../../api/queries';
import { applied } from '../../offline/apply';
import { onSent, put, useOutbox } from '../../offline/outbox';
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

  const { entries: waiting, stuck } = useOutbox();
  // What has reached the server stands in the trip at once; the trip is asked for anew only to learn of others.
  useEffect(
    () =>
      onSent((entry) => {
        if (!id) return;
        void queries.cancelQueries({ queryKey: ['trip', id] });
        queries.setQueryData<TripDetail>(['trip', id], (before) => before && applied(before, id, [entry]));
        if (/\/(contacts|stops)\//.test(entry.path)) void changed();
        else if (/^\/waters\/[^/]+\/trips\//.test(entry.path)) void queries.invalidateQueries({ queryKey: ['log', water.id] });
      }),
    [queries, id, water.id, changed],
  );
  const detail = useMemo(() => (trip.data && id ? applied(trip.data, id, waiting) : null), [trip.data, id, waiting]);

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
    const now = new Date().toISOString();
    await put('PUT', `/waters/${water.id}/trips/${running.id}`, { trip: key, start: from, end: now, purpose, goal });
    queries.setQueryData<WaterLog>(
      ['log', water.id],
      (before) => before && { ...before, trips: before.trips.map((t) => (t.id === running.id ? { ...t, end: now } : t)) },
    );
  }, [queries, water.id, running]);

  const mark = useCallback(
    async (contact: NewContact): Promise<string> => {
      const key = newId();
      await put('PUT', `/trips/${id}/contacts/${key}`, { time: new Date().toISOString(), contact: key, ...contact });
      return key;
    },
    [id],
  );

  const nothing = useCallback(
    async (at: { latitude: number; longitude: number }, radius: number): Promise<string> => {
      const key = newId();
      const now = new Date().toISOString();
      const body: Partial<Stop> = { stop: key, start: now, end: now, ...at, radius_m: radius, outcome: 'nothing' };
      await put('PUT', `/trips/${id}/stops/${key}`, body);
      return key;
    },
    [id],
  );

  const remove = useCallback((record: 'contacts' | 'stops', key: string) => put('DELETE', `/trips/${id}/${record}/${key}`), [id]);

  const read = useCallback(
    async (reading: WaterReading) => {
      await sendJson('POST', `/trips/${id}/conditions`, { time: new Date().toISOString(), ...reading });
      await queries.invalidateQueries({ queryKey: ['log', water.id] });
      await changed();
    },
    [queries, id, water.id, changed],
  );

  const entries = useMemo((): DayEntry[] => {
    if (!detail) return [];
    return [
      ...detail.contacts.map((contact): DayEntry => ({ kind: 'contact', at: Date.parse(contact.time), contact })),
      ...detail.stops.map((stop): DayEntry => ({ kind: 'stop', at: Date.parse(stop.start), stop, depth: null })),
    ].sort((a, b) => a.at - b.at);
  }, [detail]);

  return { detail, waiting, stuck, failed: trip.error, entries, start, end, mark, nothing, remove, read, hasChart: chart !== null };
}
