import { useCallback, useMemo } from 'react';
import type { Body } from '@restless-shoal/core/contract';
import { newId, type Contact } from '@restless-shoal/core/logbook';
import { deckNow } from '../../api/clock';
import { keepAndSend, useOutbox } from '../../offline/device';
import { useFreshAfterSending } from '../../offline/use-fresh';
import { beginTrip } from '../../state/begin-trip';
import { useRunningTrip } from '../../state/running-trip';
import { useWaterState } from '../../state/water';
import { dayEntries } from '../../parts/records/day-entries';
import { asSent, tripAsSent, type TripRecord } from '../../parts/records/trip-record';
import type { TripStart } from './start-trip';
import type { WaterReading } from '../../parts/records/conditions-form';

type NewContact = Partial<Contact> & Pick<Contact, 'latitude' | 'longitude' | 'kind'>;

/** Writes of the Deck. Each record has its identity before the server sees it; sending it twice changes nothing. */
export function useDeckLog() {
  const { water, running, chart, log } = useWaterState();
  const id = running?.id ?? null;
  useFreshAfterSending(water.id, id);
  const kept = useOutbox();
  const { detail, failed } = useRunningTrip();

  const start = useCallback((start: TripStart) => beginTrip(water, log.trips, start), [water, log.trips]);

  const end = useCallback(async () => {
    if (!running) return;
    const end = new Date(deckNow()).toISOString();
    await keepAndSend('PUT /waters/:water/trips/:trip', { water: water.id, trip: running.id }, { ...tripAsSent(running), end });
  }, [water.id, running]);

  /** Takes the running trip into the trash with all that was logged on it. @returns brings it back */
  const discard = useCallback(async (): Promise<() => Promise<void>> => {
    const gone = running;
    if (!gone) return () => Promise.resolve();
    const at = { water: water.id, trip: gone.id };
    await keepAndSend('DELETE /waters/:water/trips/:trip', at);
    return () => keepAndSend('POST /waters/:water/trips/:trip/restore', at, gone);
  }, [water.id, running]);

  const mark = useCallback(
    async (contact: NewContact): Promise<string> => {
      const now = deckNow();
      const key = newId(now);
      const time = new Date(now).toISOString();
      await keepAndSend('PUT /trips/:trip/contacts/:id', { trip: id!, id: key }, { time, contact: key, ...contact });
      return key;
    },
    [id],
  );

  const nothing = useCallback(
    async (at: { latitude: number; longitude: number }, radius: number): Promise<string> => {
      const now = deckNow();
      const key = newId(now);
      const time = new Date(now).toISOString();
      const body = { stop: key, start: time, end: time, ...at, radius_m: radius, outcome: 'nothing' as const };
      await keepAndSend('PUT /trips/:trip/stops/:id', { trip: id!, id: key }, body);
      return key;
    },
    [id],
  );

  /**
   * Writes a record of the trip whole: a new one, or what it has become.
   * @param base version that was changed, where the server gave one: it refuses what another device changed meanwhile
   */
  const write = useCallback(
    <D extends TripRecord>(record: D, key: string, row: Body<`PUT /trips/:trip/${D}/:id`>, base?: number) =>
      keepAndSend<`PUT /trips/:trip/${TripRecord}/:id`>(
        `PUT /trips/:trip/${record}/:id`,
        { trip: id!, id: key },
        row,
        base === undefined ? {} : { base: String(base) },
      ),
    [id],
  );

  const remove = useCallback(
    (record: TripRecord, key: string) => keepAndSend(`DELETE /trips/:trip/${record}/:id`, { trip: id!, id: key }),
    [id],
  );

  /** Brings back what was deleted. @param row as it was: this device shows it before the server has answered */
  const restore = useCallback(
    (record: TripRecord, key: string, row: object) =>
      keepAndSend(`POST /trips/:trip/${record}/:id/restore`, { trip: id!, id: key }, asSent(record, row)),
    [id],
  );

  const read = useCallback(
    (reading: WaterReading) =>
      keepAndSend('POST /trips/:trip/conditions', { trip: id! }, { time: new Date(deckNow()).toISOString(), ...reading }),
    [id],
  );

  const entries = useMemo(() => (detail ? dayEntries(detail) : []), [detail]);

  return {
    detail,
    waiting: kept.waiting,
    stuck: kept.stuck,
    failed,
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
