import { useState } from 'react';
import type { LatLon } from '@restless-shoal/core/geo';
import { SHOWN, type Photo } from '@restless-shoal/core/logbook';
import type { StoredPhoto } from '../../api/queries';
import { DeleteButton } from '../delete-button';
import { Dialog } from '../dialog';
import { clockInZone, dayInZone } from '../format';
import { told } from '../told';
import { parts as msg, term } from '../../words';
import { PhotoImage } from './photo-image';
import { addedHere, usePhotos } from './use-photos';

/** A picture of another day is none of this one's times. */
const DAY_MS = 86_400_000;

/** What becomes of time and place that the camera wrote into a picture, where the record that it shows takes them. */
export interface PhotoUses {
  onTime?: (time: string) => void;
  onPlace?: (place: LatLon) => void;
}

/** A picture, large: what it shows, its words, what the camera knew of it. */
export function PhotoSheet({
  trip,
  photo,
  zone,
  spots,
  uses = {},
  onClose,
}: {
  trip: string;
  photo: StoredPhoto;
  zone: string | null;
  spots: readonly string[];
  uses?: PhotoUses;
  onClose: () => void;
}) {
  const { change, remove } = usePhotos(trip);
  const [caption, setCaption] = useState(photo.caption ?? '');
  const [used, setUsed] = useState<'time' | 'place' | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const said = addedHere(photo.id);
  const attempt = (work: Promise<void>): Promise<void> => work.catch((error) => setFailed(told(error)));
  const set = (to: Partial<Photo>): void => void attempt(change(photo, to));
  const at = new Date(photo.time);
  const row = 'grid grid-cols-[6rem_1fr] items-center gap-3 py-1';
  const save = async (): Promise<void> => {
    if ((caption.trim() || null) !== photo.caption) await attempt(change(photo, { caption: caption.trim() || null }));
    onClose();
  };
  return (
    <Dialog title={msg('photos.of', { what: term(photo.shows), at: clockInZone(at, zone) })} onClose={onClose}>
      <PhotoImage
        trip={trip}
        id={photo.id}
        words={photo.caption || msg('photos.picture')}
        className="mx-auto mb-3 max-h-[45vh] min-h-24 w-full rounded bg-base-200 object-contain"
      />
      {said && (said.taken || said.place) && (
        <div className="mb-2 border-l-4 border-line pl-3">
          <p className="num">
            {said.taken && msg('photos.taken', { day: dayInZone(said.taken, zone), at: clockInZone(said.taken, zone) })}
            {said.place && ` ${msg('photos.takenAt', { place: `${said.place.latitude.toFixed(5)}, ${said.place.longitude.toFixed(5)}` })}`}
          </p>
          <p className="text-sm text-mute">{msg('photos.notKept')}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {said.taken && said.taken.getTime() !== at.getTime() && Math.abs(said.taken.getTime() - at.getTime()) < DAY_MS && (
              <button
                type="button"
                className="btn touch-target"
                onClick={() => {
                  const time = said.taken!.toISOString();
                  set({ time, ...(uses.onTime && photo.response_time !== null ? { response_time: time } : {}) });
                  uses.onTime?.(time);
                  setUsed('time');
                }}
              >
                {uses.onTime ? msg('photos.timeOfRecord') : msg('photos.timeOfPhoto')}
              </button>
            )}
            {said.place && uses.onPlace && used !== 'place' && (
              <button
                type="button"
                className="btn touch-target"
                onClick={() => {
                  uses.onPlace!(said.place!);
                  setUsed('place');
                }}
              >
                {msg('photos.placeOfRecord')}
              </button>
            )}
          </div>
        </div>
      )}
      <label className={row}>
        <span className="text-mute">{msg('photos.caption')}</span>
        <input className="input h-11 w-full" maxLength={4000} value={caption} onChange={(e) => setCaption(e.target.value)} />
      </label>
      <div role="group" aria-label={msg('photos.shows')} className={row}>
        <span className="text-mute">{msg('photos.shows')}</span>
        <span className="grid grid-cols-4 gap-1.5">
          {SHOWN.map((what) => (
            <button
              key={what}
              type="button"
              aria-pressed={photo.shows === what}
              className={`btn h-11 px-1 capitalize ${photo.shows === what ? 'btn-primary' : ''}`}
              onClick={() => set({ shows: what })}
            >
              {term(what)}
            </button>
          ))}
        </span>
      </div>
      {photo.shows === 'spot' && (
        <label className={row}>
          <span className="text-mute">{msg('photos.spot')}</span>
          <select className="select h-11 w-full" value={photo.spot ?? ''} onChange={(e) => set({ spot: e.target.value || null })}>
            <option value="">{spots.length ? msg('photos.notSaid') : msg('photos.noSpotYet')}</option>
            {[...new Set([...spots, ...(photo.spot ? [photo.spot] : [])])].map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      <p className="mt-1 text-sm text-mute">
        {photo.shows === 'screen' || photo.shows === 'spot' ? msg('photos.neverInReport') : msg('photos.inReport')}
      </p>
      {failed && (
        <p role="alert" className="text-warn">
          {failed}
        </p>
      )}
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={() => void save()}>
        {msg('photos.done')}
      </button>
      <DeleteButton
        label={msg('photos.delete')}
        goes={msg('photos.goes')}
        className="mt-2"
        onDelete={() => {
          void attempt(remove(photo));
          onClose();
        }}
      />
    </Dialog>
  );
}
