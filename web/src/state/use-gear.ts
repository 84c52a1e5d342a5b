import { useMemo } from 'react';
import { columnsOf, emptyRow, newId, type Gear } from '@restless-shoal/core/logbook';
import { useServedGear, type StoredGear } from '../api/queries';
import { appliedGear, since } from '../offline/apply';
import { keepAndSend, useOutbox } from '../offline/device';
import { edits } from './edits';

const OWN = new Set(columnsOf('gear'));
const bare = (row: object): Gear => Object.fromEntries(Object.entries(row).filter(([name]) => OWN.has(name))) as unknown as Gear;

/** What somebody fishes with, and what is made of it: kept on the device, sent, and taken back. */
export function useGear() {
  const { data, error } = useServedGear();
  const kept = useOutbox();
  const gear = useMemo((): StoredGear[] | null => (data ? appliedGear(data.list, since(kept, data.asOf)) : null), [data, kept]);
  const put = (id: string, as: object): Promise<void> => keepAndSend('PUT /gear/:id', { id }, bare({ ...emptyRow('gear'), ...as }));
  const del = (id: string): Promise<void> => keepAndSend('DELETE /gear/:id', { id });
  const restore = (id: string, as: object): Promise<void> => keepAndSend('POST /gear/:id/restore', { id }, bare(as));

  const add = (as: Partial<Gear>, words: string): Promise<void> => {
    const id = newId();
    let there = false;
    return edits.do({
      words,
      redo: async () => {
        await (there ? restore(id, as) : put(id, as));
        there = true;
      },
      undo: () => del(id),
    });
  };
  const change = (was: StoredGear, as: Partial<Gear>, words: string): Promise<void> =>
    edits.do({ words, redo: () => put(was.id, { ...was, ...as }), undo: () => put(was.id, was) });
  const remove = (was: StoredGear, words: string): Promise<void> =>
    edits.do({ words, redo: () => del(was.id), undo: () => restore(was.id, was) });
  return { gear, failed: error, add, change, remove };
}
