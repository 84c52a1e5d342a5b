import { useMemo } from 'react';
import { newId } from '@restless-shoal/core/logbook';
import { useSpots as useServed, type Spot, type SpotYield } from '../api/queries';
import { appliedSpots, since } from '../offline/apply';
import { keepAndSend, useOutbox } from '../offline/device';
import { edits } from './edits';

type Named = Omit<Spot, 'id'>;
const bare = ({ name, latitude, longitude, notes }: Named): Named => ({ name, latitude, longitude, notes });

/** The spots of a water, and what is made of them: kept on the device, sent, and taken back. */
export function useSpots(water: string) {
  const { data, error } = useServed(water);
  const kept = useOutbox();
  const spots = useMemo(
    (): SpotYield[] | null => (data ? appliedSpots(data.list, water, since(kept, data.asOf)) : null),
    [data, water, kept],
  );
  const put = (id: string, as: Named): Promise<void> => keepAndSend('PUT /waters/:water/spots/:spot', { water, spot: id }, bare(as));
  const del = (id: string): Promise<void> => keepAndSend('DELETE /waters/:water/spots/:spot', { water, spot: id });
  const restore = (id: string, as: Named): Promise<void> =>
    keepAndSend('POST /waters/:water/spots/:spot/restore', { water, spot: id }, bare(as));

  const add = (as: Named, words: string): Promise<void> => {
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
  const change = (was: Spot, as: Named, words: string): Promise<void> =>
    edits.do({ words, redo: () => put(was.id, as), undo: () => put(was.id, was) });
  const remove = (was: Spot, words: string): Promise<void> =>
    edits.do({ words, redo: () => del(was.id), undo: () => restore(was.id, was) });
  return { spots, failed: error, add, change, remove };
}
