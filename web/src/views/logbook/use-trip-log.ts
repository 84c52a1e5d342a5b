import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { emptyRow, newId, type Row } from '@restless-shoal/core/logbook';
import { ask } from '../../api/client';
import { useTrip, type StoredReading, type TripDetail, type TripRow } from '../../api/queries';
import { appliedTrip, since } from '../../offline/apply';
import { keepAndSend, useOutbox } from '../../offline/device';
import { useFreshAfterSending } from '../../offline/use-fresh';
import { asSent, tripAsSent, type TripRecord } from '../../parts/records/trip-record';
import { edits } from '../../state/edits';
import { useWaterState } from '../../state/water';

/** A record as it is shown. One that waits on the device has no version. */
export type Shown = { id: string; version?: number } & object;

/** Something that goes into the trash. */
export interface Gone {
  record: TripRecord;
  id: string;
  row: object;
}

/** A trip of the Logbook, and what is made of it: each write is kept on the device, sent, and can be taken back. */
export function useTripLog(id: string) {
  const { water, log } = useWaterState();
  const kept = useOutbox();
  const queries = useQueryClient();
  const trip = useTrip(id);
  useFreshAfterSending(water.id, id);
  const detail = useMemo((): TripDetail | null => trip.data ? appliedTrip(trip.data, since(kept, trip.data.asOf)) : null, [trip.data, kept]); // prettier-ignore
  const row: TripRow | null = log.trips.find((t) => t.id === id) ?? null;
  const readings = useMemo(
    () => (row ? log.readings.filter((r) => (r.trip_id === undefined ? r.trip === row.trip : r.trip_id === id)) : []),
    [log.readings, row, id],
  );

  const put = (record: TripRecord, key: string, as: object, base?: number): Promise<void> =>
    keepAndSend(
      `PUT /trips/:trip/${record}/:id`,
      { trip: id, id: key },
      asSent(record, as) as never,
      base === undefined ? {} : { base: String(base) },
    );
  /** Many at once, as one: on the device, on their way and on the server. */
  const send = (done: 'put' | 'deleted' | 'restored', list: readonly Gone[]): Promise<void> =>
    keepAndSend(
      'POST /trips/:trip/records',
      { trip: id },
      {
        edits: list.map(({ record, id: key, row: as }) => ({ record, id: key, done, row: done === 'deleted' ? null : asSent(record, as) })),
      },
    );

  /** Puts records right. One alone, that another device has changed meanwhile, is refused the first time. */
  const change = <R extends Shown>(record: TripRecord, rows: readonly R[], to: (row: R) => Row, words: string): Promise<void> => {
    const was = rows.map((r): Gone => ({ record, id: r.id, row: { ...r } }));
    const becomes = rows.map((r): Gone => ({ record, id: r.id, row: { ...r, ...to(r) } }));
    let base = rows.length === 1 ? rows[0].version : undefined;
    return edits.do({
      words,
      redo: async () => {
        await (base === undefined ? send('put', becomes) : put(record, becomes[0].id, becomes[0].row, base));
        base = undefined;
      },
      undo: () => send('put', was),
    });
  };

  /** @returns its id */
  const add = async (record: TripRecord, as: Row, words: string): Promise<string> => {
    const added: Gone = { record, id: newId(), row: { ...emptyRow(record), ...as } };
    let there = false;
    await edits.do({
      words,
      redo: async () => {
        await send(there ? 'restored' : 'put', [added]);
        there = true;
      },
      undo: () => send('deleted', [added]),
    });
    return added.id;
  };

  const remove = (gone: readonly Gone[], words: string): Promise<void> =>
    edits.do({ words, redo: () => send('deleted', gone), undo: () => send('restored', gone) });

  const putTrip = (as: TripRow): Promise<void> =>
    keepAndSend('PUT /waters/:water/trips/:trip', { water: water.id, trip: id }, tripAsSent(as));
  const changeTrip = (to: Partial<TripRow>, words: string): Promise<void> => {
    const was = row!;
    return edits.do({ words, redo: () => putTrip({ ...was, ...to }), undo: () => putTrip(was) });
  };

  const removeTrip = (words: string): Promise<void> => {
    const [at, was] = [{ water: water.id, trip: id }, row!];
    return edits.do({
      words,
      redo: () => keepAndSend('DELETE /waters/:water/trips/:trip', at),
      undo: () => keepAndSend('POST /waters/:water/trips/:trip/restore', at, tripAsSent(was)),
    });
  };

  /** What all lists and numbers of the water show is asked for anew: trips were made one or two. */
  const rearranged = (): Promise<void> => queries.invalidateQueries();
  const at = { water: water.id, trip: id };
  const merge = async (other: string): Promise<string> =>
    (await ask('POST /waters/:water/trips/:trip/merge', at, { body: { other } })).change;

  /** Makes another trip part of this one. Only with a server: both have to be whole. */
  const mergeWith = (other: string, words: string): Promise<void> => {
    let change = '';
    return edits.do({
      words,
      redo: async () => {
        change = await merge(other);
        await rearranged();
      },
      undo: async () => {
        await ask('POST /waters/:water/trips/:trip/unmerge', at, { body: { change } });
        await rearranged();
      },
    });
  };

  /** Makes what was logged from a moment on a trip of its own. */
  const splitAt = (moment: string, words: string): Promise<void> => {
    const [was, other] = [row!, newId()];
    return edits.do({
      words,
      redo: async () => {
        await ask('POST /waters/:water/trips/:trip/split', at, { body: { at: moment, id: other } });
        await rearranged();
      },
      undo: async () => {
        await merge(other);
        await ask('PUT /waters/:water/trips/:trip', at, { body: tripAsSent(was) });
        await rearranged();
      },
    });
  };

  return {
    /** A write that the server did not take. */
    refused: kept.waiting.find((e) => e.refused !== null),
    row,
    detail,
    readings: readings as readonly StoredReading[],
    failed: trip.error,
    change,
    add,
    remove,
    changeTrip,
    removeTrip,
    mergeWith,
    splitAt,
  };
}
