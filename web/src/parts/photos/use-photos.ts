import type { Photo } from '@restless-shoal/core/logbook';
import { newId } from '@restless-shoal/core/logbook';
import type { StoredPhoto } from '../../api/queries';
import { keepAndSend, keepAndSendPicture } from '../../offline/device';
import { edits } from '../../state/edits';
import { parts as msg } from '../../words';
import { asSent } from '../records/trip-record';
import { readPhoto, type ReadPhoto } from './read-photo';

/** What a new photo shows, and of which record of the trip. */
export type PhotoOf = Pick<Photo, 'time' | 'shows'> & Partial<Pick<Photo, 'contact' | 'stop' | 'response_time' | 'spot'>>;

/** Pictures that were added on this page, with what cameras wrote into them: for as long as it is open, and nowhere else. */
const read = new Map<string, ReadPhoto>();
export const addedHere = (id: string): ReadPhoto | null => read.get(id) ?? null;

/** Pictures of a trip: kept on the device with the log, sent when there is a server, taken back as all else. */
export function usePhotos(trip: string) {
  const at = (id: string) => ({ trip, id });
  const put = (id: string, row: object): Promise<void> =>
    keepAndSend('PUT /trips/:trip/photos/:id', at(id), asSent('photos', row) as never);
  const del = (id: string): Promise<void> => keepAndSend('DELETE /trips/:trip/photos/:id', at(id));
  const restore = (id: string, row: object): Promise<void> =>
    keepAndSend('POST /trips/:trip/photos/:id/restore', at(id), asSent('photos', row));

  /** Adds pictures, one step of undo each. @returns the id of the last @throws Error in the reader's words */
  const add = async (files: Iterable<File>, of: PhotoOf): Promise<string | null> => {
    let last: string | null = null;
    for (const file of files) {
      const photo = await readPhoto(file);
      const id = newId();
      read.set(id, photo);
      const row = { ...of, photo: id };
      let there = false;
      await edits.do({
        words: msg('photos.added'),
        redo: async () => {
          if (there) return restore(id, row);
          await put(id, row);
          await keepAndSendPicture(trip, id, photo.picture);
          there = true;
        },
        undo: () => del(id),
      });
      last = id;
    }
    return last;
  };
  const change = (was: StoredPhoto, to: Partial<Photo>): Promise<void> =>
    edits.do({ words: msg('photos.changed'), redo: () => put(was.id, { ...was, ...to }), undo: () => put(was.id, was) });
  const remove = (was: StoredPhoto): Promise<void> =>
    edits.do({ words: msg('photos.deleted'), redo: () => del(was.id), undo: () => restore(was.id, was) });
  return { add, change, remove };
}
