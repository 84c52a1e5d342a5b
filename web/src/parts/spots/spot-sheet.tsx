import { useState } from 'react';
import { Link } from 'react-router';
import { readPosition, type LatLon } from '@restless-shoal/core/geo';
import { useWaterPhotos, type Spot, type SpotYield } from '../../api/queries';
import { DeleteButton } from '../delete-button';
import { PhotoImage } from '../photos';
import { useWaterState } from '../../state/water';
import { Dialog } from '../dialog';
import { POSITIONS } from '../position-field';
import { told } from '../told';
import { locale, logbook as msg } from '../../words';
import { SpotConditions } from './spot-conditions';
import { YieldTable } from './yield-table';

const monthName = (month: number): string => new Intl.DateTimeFormat(locale(), { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2026, month - 1, 1)); // prettier-ignore

/** A spot: its name, where it lies, what there is to know of it. */
export function SpotSheet({
  spot,
  at = null,
  onSave,
  onDelete,
  onClose,
}: {
  /** One that is changed; null for a new one. */
  spot: SpotYield | Spot | null;
  /** Where a new one lies, if that is known. */
  at?: LatLon | null;
  onSave: (spot: Omit<Spot, 'id'>) => Promise<void>;
  onDelete?: () => Promise<void>;
  onClose: () => void;
}) {
  const { water } = useWaterState();
  const photos = (useWaterPhotos(water.id).data ?? []).filter((p) => spot !== null && p.shows === 'spot' && p.spot === spot.name);
  const from = spot ?? at;
  const [name, setName] = useState(spot?.name ?? '');
  const [where, setWhere] = useState(from ? `${from.latitude.toFixed(5)}, ${from.longitude.toFixed(5)}` : '');
  const [first] = useState(where);
  const [notes, setNotes] = useState(spot?.notes ?? '');
  const [wrong, setWrong] = useState<string | null>(null);
  const attempt = (work: Promise<void>): void => void work.then(onClose, (error) => setWrong(told(error)));
  const save = (): void => {
    // A position that was not touched keeps all its digits.
    const position = where === first && from ? from : readPosition(where);
    if (!name.trim()) return setWrong(msg('spotSheet.giveItAName'));
    if (!position) return setWrong(POSITIONS);
    attempt(onSave({ name: name.trim(), latitude: position.latitude, longitude: position.longitude, notes: notes.trim() || null }));
  };
  const row = 'grid grid-cols-[6rem_1fr] items-center gap-3 py-1';
  return (
    <Dialog title={spot ? spot.name : msg('spotSheet.newSpot')} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <label className={row}>
          <span className="text-mute">{msg('spotSheet.name')}</span>
          <input className="input h-11 w-full" maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className={row}>
          <span className="text-mute">{msg('spotSheet.position')}</span>
          <input
            className="input num h-11 w-full"
            placeholder={msg('spotSheet.latitudeLongitude')}
            value={where}
            onChange={(e) => setWhere(e.target.value)}
          />
        </label>
        <label className={row}>
          <span className="text-mute">{msg('field.notes')}</span>
          <textarea className="textarea w-full" rows={3} maxLength={4000} value={notes} onChange={(e) => setNotes(e.target.value)} />
        </label>
        {wrong && (
          <p role="alert" className="mt-2 text-warn">
            {wrong}
          </p>
        )}
        <button type="submit" className="btn btn-primary mt-3 h-12 w-full">
          {msg('tripSheet.save')}
        </button>
      </form>
      {spot && 'months' in spot && spot.months.length > 0 && (
        <YieldTable
          caption={msg('spotSheet.byMonth')}
          of={msg('seasons.month')}
          rows={spot.months.map(([month, stops, minutes, bites, landed]) => ({ name: monthName(month), stops, minutes, bites, landed }))}
        />
      )}
      {spot && 'stops' in spot && spot.stops > 0 && <SpotConditions spot={spot} />}
      {photos.length > 0 && (
        <ul className="mt-3 flex flex-wrap gap-2" aria-label={msg('spotSheet.photos')}>
          {photos.map((p) => (
            <li key={p.id}>
              <Link to={`/logbook/${p.trip_id}`} className="block overflow-hidden rounded border border-line">
                <PhotoImage trip={p.trip_id!} id={p.id} words={p.caption ?? spot!.name} small className="h-24 w-24 object-cover" />
              </Link>
            </li>
          ))}
        </ul>
      )}
      {spot && onDelete && (
        <DeleteButton
          label={msg('spotSheet.deleteSpot')}
          goes={msg('spotSheet.theSpotGoes', { name: spot.name })}
          onDelete={() => attempt(onDelete())}
        />
      )}
    </Dialog>
  );
}
