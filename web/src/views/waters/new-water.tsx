import { useQueryClient } from '@tanstack/react-query';
import { LocateFixed } from 'lucide-react';
import { useState } from 'react';
import { readPosition } from '@restless-shoal/core/geo';
import { newId } from '@restless-shoal/core/logbook';
import { parseMeasure } from '@restless-shoal/core/units';
import { ask } from '../../api/client';
import { ownZone } from '../../parts/format';
import { POSITIONS } from '../../parts/position-field';
import { useUnits } from '../../state/units';
import { whereIsThisDevice } from '../../state/where-is-this-device';
import { waters as msg, term } from '../../words';
import { told } from '../../parts/told';

export const WATER_KINDS = ['lake', 'reservoir', 'river', 'coast'] as const;

/** How somebody goes on with a new water. */
const NEXT = [
  { next: 'draw', words: msg('newWater.drawTheOutline'), hint: msg('newWater.withAFingerOn') },
  { next: 'drive', words: msg('newWater.driveRoundIt'), hint: msg('newWater.theTrackBecomesThe') },
  { next: 'import', words: msg('newWater.importFiles'), hint: msg('newWater.anOutlineSoundingsA') },
  { next: 'trip', words: msg('newWater.startATripHere'), hint: msg('newWater.theOutlineCanCome') },
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
    if (!name.trim()) return setWrong({ field: 'name', words: msg('newWater.giveItAName') });
    const position = place.trim() ? readPosition(place) : null;
    if (place.trim() && !position)
      return setWrong({ field: 'place', words: msg('newWater.thePositionCouldNot', { positions: POSITIONS }) });
    if (!position && next === 'draw') return setWrong({ field: 'place', words: msg('newWater.enterItsPositionSo') });
    let metres: number | null;
    try {
      metres = deepest.trim() ? parseMeasure(deepest, 'depth', units.depth) : null;
    } catch {
      return setWrong({ field: 'deepest', words: msg('newWater.theDepthMustBe', { depth: units.depth }) });
    }
    if (metres !== null && !(metres >= 0.3 && metres <= 1700))
      return setWrong({ field: 'deepest', words: msg('newWater.theDepthMustBe2', { least: 0.3, most: 1700 }) });
    setBusy(true);
    try {
      const id = newId();
      const body = { name: name.trim(), kind, ...(position ?? {}), deepest_m: metres, time_zone: ownZone() };
      await ask('PUT /waters/:water', { water: id }, { body });
      await queries.invalidateQueries({ queryKey: ['waters'] });
      onMade(id, next);
    } catch (error) {
      setWrong({ field: null, words: told(error) });
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
        <span className="font-semibold">{msg('newWater.name')}</span>
        <input
          className="input mt-1 h-12 w-full"
          value={name}
          maxLength={120}
          placeholder={msg('newWater.myLake')}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      {alert('name')}
      <div role="radiogroup" aria-label={msg('newWater.kindOfWater')} className="grid grid-cols-4 gap-1.5">
        {WATER_KINDS.map((k) => (
          <button
            key={k}
            type="button"
            role="radio"
            aria-checked={kind === k}
            className={`btn h-12 px-1 capitalize ${kind === k ? 'btn-primary' : ''}`}
            onClick={() => setKind(k)}
          >
            {term(k)}
          </button>
        ))}
      </div>
      <label className="block">
        <span className="font-semibold">{msg('newWater.whereItLies')}</span>
        <span className="mt-1 flex gap-2">
          <input
            aria-label={msg('newWater.whereItLies')}
            className="input num h-12 min-w-0 flex-1"
            value={place}
            placeholder={msg('newWater.latitudeLongitude')}
            onChange={(e) => setPlace(e.target.value)}
          />
          <button type="button" className="btn h-12 shrink-0 px-3" disabled={busy} onClick={locate}>
            <LocateFixed size={20} aria-hidden /> {msg('newWater.iAmThere')}
          </button>
        </span>
      </label>
      {alert('place')}
      <label className="flex items-center justify-between gap-3">
        <span>
          <span className="font-semibold">{msg('newWater.deepestWater')}</span>
          {msg('newWater.ifYouKnowIt')}
        </span>
        <span className="flex items-center gap-1.5">
          <input inputMode="decimal" className="input num h-12 w-24" value={deepest} onChange={(e) => setDeepest(e.target.value)} />
          {units.depth}
        </span>
      </label>
      {alert('deepest')}
      {alert(null)}
      <p className="mt-1 text-mute">{msg('newWater.howDoYouWant')}</p>
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
