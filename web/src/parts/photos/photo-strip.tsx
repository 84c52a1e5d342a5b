import { Camera } from 'lucide-react';
import { useState } from 'react';
import type { StoredPhoto } from '../../api/queries';
import { clockInZone } from '../format';
import { told } from '../told';
import { parts as msg, term } from '../../words';
import { PhotoImage } from './photo-image';
import { PhotoSheet, type PhotoUses } from './photo-sheet';
import { usePhotos, type PhotoOf } from './use-photos';

/** What a photo shows, in few words. */
export const photoWords = (photo: StoredPhoto, zone: string | null): string =>
  photo.caption || msg('photos.of', { what: term(photo.shows), at: clockInZone(new Date(photo.time), zone) });

/** Pictures side by side, each opens; and a new one, taken or chosen. */
export function PhotoStrip({
  trip,
  photos,
  of,
  zone,
  spots = [],
  uses,
}: {
  trip: string;
  photos: readonly StoredPhoto[];
  /** What a new one shows. */
  of: PhotoOf;
  zone: string | null;
  /** Names of spots that a picture may show. */
  spots?: readonly string[];
  uses?: PhotoUses;
}) {
  const { add } = usePhotos(trip);
  const [open, setOpen] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const shown = photos.find((p) => p.id === open);
  const take = async (files: File[]): Promise<void> => {
    if (!files.length) return;
    setFailed(null);
    setBusy(true);
    try {
      const last = await add(files, of);
      // What the camera wrote into it is offered there.
      if (files.length === 1) setOpen(last);
    } catch (error) {
      setFailed(told(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div>
      <ul className="flex flex-wrap gap-2">
        {photos.map((p) => (
          <li key={p.id}>
            <button type="button" className="block overflow-hidden rounded border border-line" onClick={() => setOpen(p.id)}>
              <PhotoImage trip={trip} id={p.id} words={photoWords(p, zone)} small className="h-24 w-24 object-cover" />
            </button>
          </li>
        ))}
        <li>
          <label
            className={`grid h-24 w-24 cursor-pointer place-items-center rounded border border-dashed border-mute text-center text-sm focus-within:outline-2 focus-within:outline-ink ${busy ? 'text-mute' : ''}`}
          >
            <span>
              <Camera className="mx-auto mb-1" aria-hidden />
              {busy ? msg('photos.reading') : msg('photos.add')}
            </span>
            <input
              type="file"
              accept="image/*"
              multiple
              className="sr-only"
              disabled={busy}
              onChange={(e) => {
                // The list is the field's own, and empty once that is.
                void take([...(e.target.files ?? [])]);
                e.target.value = '';
              }}
            />
          </label>
        </li>
      </ul>
      {failed && (
        <p role="alert" className="mt-2 text-warn">
          {failed}
        </p>
      )}
      {shown && <PhotoSheet trip={trip} photo={shown} zone={zone} spots={spots} uses={uses} onClose={() => setOpen(null)} />}
    </div>
  );
}
