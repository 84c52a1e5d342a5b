import { useQueryClient } from '@tanstack/react-query';
import { LocateFixed } from 'lucide-react';
import { useState } from 'react';
import { readPosition } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { parseMeasure } from '@restless-shoal/core/units';
import { sendJson } from '../../api/client';
import { ownZone } from '../../parts/format';
import { POSITIONS } from '../../parts/position-field';
import { useUnits } from '../../state/units';
import { whereIsThisDevice } from '../../state/where-is-this-device';

export const WATER_KINDS = ['lake', 'reservoir', 'river', 'coast'] as const;

/** How somebody goes on with a new water. */
const NEXT = [
  { next: 'draw', words: 'Draw the outline', hint: 'with a finger, on an empty map' },
  { next: 'drive', words: 'Drive round it', hint: 'the track becomes the shore' },
  { next: 'import', words: 'Import files', hint: 'an outline, soundings, a logbook' },
  { next: 'trip', words: 'Start a trip here', hint: 'the outline can come later' },
] as const;
export type NextStep = (typeof NEXT)[number]['next'];

/** A water from nothing: its name, where it lies, and how to go on. */
export function NewWater({ onMade }: { onMade: (id: string, next: NextStep) => void }) {
  const queries = useQueryClient();
  const units = useUnits();
  const [name, setName] = useState('');
  const [kind, setKind] = useState<string>('lake');
  const [place, setPlace] = useState('');
  const [deepest, setDeepest] = useState('');
  const [wrong, setWrong] = useState<{ field: 'name' | 'place' | 'deepest' | null; words: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const locate = (): void => {
    setBusy(true);
    whereIsThisDevice()
      .then(
        ({ latitude, longitude }) => {
          setPlace(`${latitude.toFixed(5)}, ${longitude.toFixed(5)}`);
          setWrong(null);
        },
        (error: Error) => setWrong({ field: 'place', words: error.message }),
      )
      .finally(() => setBusy(false));
  };
  const make = async (next: NextStep): Promise<void> => {
    if (!name.trim()) return setWrong({ field: 'name', words: 'Give it a name.' });
    const position = place.trim() ? readPosition(place) : null;
    if (place.trim() && !position) return setWrong({ field: 'place', words: `The position could not be read. ${POSITIONS}` });
    if (!position && next === 'draw') return setWrong({ field: 'place', words: 'Say where it lies, so that the map can be opened there.' });
    let metres: number | null;
    try {
      metres = deepest.trim() ? parseMeasure(deepest, 'depth', units.depth) : null;
    } catch {
      return setWrong({ field: 'deepest', words: `The depth must be a number in ${units.depth}, or with a unit of its own.` });
    }
    if (metres !== null && !(metres >= 0.3 && metres <= 1700))
      return setWrong({ field: 'deepest', words: 'The depth must be from 0.3 to 1700 m.' });
    setBusy(true);
    try {
      const id = newId();
      await sendJson('PUT', `/waters/${id}`, {
        name: name.trim(),
        kind,
        ...(position ?? {}),
        deepest_m: metres,
        time_zone: ownZone(),
      });
      await queries.invalidateQueries({ queryKey: ['waters'] });
      onMade(id, next);
    } catch (error) {
      setWrong({ field: null, words: (error as Error).message });
    } finally {
      setBusy(false);
    }
  };
  const alert = (field: NonNullable<typeof wrong>['field']) =>
    wrong?.field === field && (
      <p role="alert" className="text-sm text-warn">
        {wrong.words}
      </p>
    );
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void make('trip');
      }}
    >
      <label className="block">
        <span className="font-semibold">Name</span>
        <input
          className="input mt-1 h-12 w-full"
          value={name}
          maxLength={120}
          placeholder="My lake"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      {alert('name')}
      <div role="radiogroup" aria-label="Kind of water" className="grid grid-cols-4 gap-1.5">
        {WATER_KINDS.map((k) => (
          <button
            key={k}
            type="button"
            role="radio"
            aria-checked={kind === k}
            className={`btn h-12 px-1 capitalize ${kind === k ? 'btn-primary' : ''}`}
            onClick={() => setKind(k)}
          >
            {k}
          </button>
        ))}
      </div>
      <label className="block">
        <span className="font-semibold">Where it lies</span>
        <span className="mt-1 flex gap-2">
          <input
            aria-label="Where it lies"
            className="input num h-12 min-w-0 flex-1"
            value={place}
            placeholder="latitude, longitude"
            onChange={(e) => setPlace(e.target.value)}
          />
          <button type="button" className="btn h-12 shrink-0 px-3" disabled={busy} onClick={locate}>
            <LocateFixed size={20} aria-hidden /> I am there
          </button>
        </span>
      </label>
      {alert('place')}
      <label className="flex items-center justify-between gap-3">
        <span>
          <span className="font-semibold">Deepest water</span>, if you know it
        </span>
        <span className="flex items-center gap-1.5">
          <input inputMode="decimal" className="input num h-12 w-24" value={deepest} onChange={(e) => setDeepest(e.target.value)} />
          {units.depth}
        </span>
      </label>
      {alert('deepest')}
      {alert(null)}
      <p className="mt-1 text-mute">How do you want to go on?</p>
      <div className="grid grid-cols-2 gap-2">
        {NEXT.map(({ next, words, hint }) => (
          <button
            key={next}
            type="button"
            disabled={busy}
            className={`btn h-auto min-h-16 flex-col gap-0 px-2 py-2 leading-tight ${next === 'draw' ? 'btn-primary' : ''}`}
            onClick={() => void make(next)}
          >
            {words}
            <small className="font-normal opacity-80">{hint}</small>
          </button>
        ))}
      </div>
    </form>
  );
}
