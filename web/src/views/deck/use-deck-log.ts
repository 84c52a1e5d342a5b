import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo } from 'react';
import { newId, type Contact, type Stop } from '@restless-shoal/core/logbook';
import { deckNow } from '../../api/clock';
import { useTrip, type TripDetail } from '../../api/queries';
import { appliedTrip, since } from '../../offline/apply';
import { outbox, useOutbox } from '../../offline/device';
import { beginTrip } from '../../state/begin-trip';
import { useWaterState } from '../../state/water';
import type { DayEntry } from './day-strip';
import { asSent } from './outcome';
import type { TripStart } from './start-trip';
import type { WaterReading } from './conditions-form';

/** Records of a trip that the Deck writes one by one. */
export type DeckRecord = 'contacts' | 'stops' | 'responses';

type NewContact = Partial<Contact> & Pick<Contact, 'latitude' | 'longitude' | 'kind'>;

/** Quiet after the last mark before the water's numbers are asked for anew, ms. */
const DERIVED_AFTER_MS = 4000;

/** Writes of the Deck. Each record has its identity before the server sees it; sending it twice changes nothing. */
export function useDeckLog() {
  const { water, running, chart, log } = useWaterState();
  const queries = useQueryClient();
  const id = running?.id ?? null;
  const kept = useOutbox();
  const begun = id !== null && kept.waiting.some((e) => e.path === `/waters/${water.id}/trips/${id}` && e.refused === null);
  const trip = useTrip(begun ? null : id);

  /** What follows from all that is logged on the water. */
  const derived = useCallback(
    () =>
      ['contacts', 'fit', 'looks', 'logbook'].forEach(
        (of) => void queries.invalidateQueries({ queryKey: [of, water.id], refetchType: 'all' }),
      ),
    [queries, water.id],
  );

  // What has reached the server is asked for anew; until it comes, what is on the device stands in its place.
  useEffect(() => {
    let [records, logged] = [false, false];
    let timer: ReturnType<typeof setTimeout> | undefined;
    let later: ReturnType<typeof setTimeout> | undefined;
    const stop = outbox.onSent(({ path }) => {
      records ||= /\/(contacts|stops|responses)\//.test(path);
      logged ||= path.startsWith('/waters/') || path.endsWith('/conditions');
      clearTimeout(timer);
      // Once for all that goes out in a row.
      timer = setTimeout(() => {
        if (records) {
          void queries.invalidateQueries({ queryKey: ['trip', id], refetchType: 'active' });
          // The whole water's numbers are heavy: after the marking, so that they are not in the way of the next touch.
          clearTimeout(later);
          later = setTimeout(() => {
            later = undefined;
            derived();
          }, DERIVED_AFTER_MS);
        }
        if (logged)
          for (const queryKey of [['log', water.id], ['outcomes', water.id], ['waters'], ['running']])
            void queries.invalidateQueries({ queryKey });
        [records, logged] = [false, false];
      }, 250);
    });
    return () => {
      stop();
      clearTimeout(timer);
      if (later === undefined) return;
      clearTimeout(later);
      derived();
    };
  }, [queries, water.id, id, derived]);
  const detail = useMemo((): TripDetail | null => {
    // A trip begun on this device that no server knows yet, or that could not be asked for since; what was marked on it
    // while it is being asked for is shown all the same.
    const marked = [...kept.sent, ...kept.waiting].some((e) => e.path.startsWith(`/trips/${id}/`));
    const base =
      trip.data ??
      (running && (begun || trip.error || marked) ? { asOf: 0, trip: running, track: [], stops: [], contacts: [], responses: [] } : null);
    return base && appliedTrip(base, since(kept, base.asOf));
  }, [trip.data, trip.error, running, id, begun, kept]);

  const start = useCallback((start: TripStart) => beginTrip(water, log.trips, start), [water, log.trips]);

  const end = useCallback(async () => {
    if (!running) return;
    const { trip: key, start: from, purpose, goal } = running;
    await outbox.put('PUT', `/waters/${water.id}/trips/${running.id}`, {
      trip: key,
      start: from,
      end: new Date(deckNow()).toISOString(),
      purpose,
      goal,
    });
  }, [water.id, running]);

  /** Takes the running trip into the trash with all that was logged on it. @returns brings it back */
  const discard = useCallback(async (): Promise<() => Promise<void>> => {
    const gone = running;
    const path = `/waters/${water.id}/trips/${gone?.id}`;
    if (gone) await outbox.put('DELETE', path);
    return () => (gone ? outbox.put('POST', `${path}/restore`, gone) : Promise.resolve());
  }, [water.id, running]);

  const mark = useCallback(
    async (contact: NewContact): Promise<string> => {
      const now = deckNow();
      const key = newId(now);
      await outbox.put('PUT', `/trips/${id}/contacts/${key}`, { time: new Date(now).toISOString(), contact: key, ...contact });
      return key;
    },
    [id],
  );

  const nothing = useCallback(
    async (at: { latitude: number; longitude: number }, radius: number): Promise<string> => {
      const now = deckNow();
      const key = newId(now);
      const time = new Date(now).toISOString();
      const body: Partial<Stop> = { stop: key, start: time, end: time, ...at, radius_m: radius, outcome: 'nothing' };
      await outbox.put('PUT', `/trips/${id}/stops/${key}`, body);
      return key;
    },
    [id],
  );

  /**
   * Writes a record of the trip whole: a new one, or what it has become.
   * @param base version that was changed, where the server gave one: it refuses what another device changed meanwhile
   */
  const write = useCallback(
    (record: DeckRecord, key: string, row: object, base?: number) =>
      outbox.put('PUT', `/trips/${id}/${record}/${key}${base === undefined ? '' : `?base=${base}`}`, row),
    [id],
  );

  const remove = useCallback((record: DeckRecord, key: string) => outbox.put('DELETE', `/trips/${id}/${record}/${key}`), [id]);

  /** Brings back what was deleted. @param row as it was: this device shows it before the server has answered */
  const restore = useCallback(
    (record: DeckRecord, key: string, row: object) => outbox.put('POST', `/trips/${id}/${record}/${key}/restore`, asSent(record, row)),
    [id],
  );

  const read = useCallback(
    (reading: WaterReading) => outbox.put('POST', `/trips/${id}/conditions`, { time: new Date(deckNow()).toISOString(), ...reading }),
    [id],
  );

  const entries = useMemo((): DayEntry[] => {
    if (!detail) return [];
    return [
      ...detail.contacts.map((contact): DayEntry => ({ kind: 'contact', at: Date.parse(contact.time), contact })),
      ...detail.stops.map((stop): DayEntry => ({ kind: 'stop', at: Date.parse(stop.start), stop, depth: null })),
    ].sort((a, b) => a.at - b.at);
  }, [detail]);

  return {
    detail,
    waiting: kept.waiting,
    stuck: kept.stuck,
    failed: trip.error,
    entries,
    start,
    end,
    discard,
    mark,
    nothing,
    write,
    remove,
    restore,
    read,
    hasChart: chart !== null,
  };
}
