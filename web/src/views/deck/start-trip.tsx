import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import type { Trip } from '@restless-shoal/core/logbook';
import { useWaterState } from '../../state/water';
import { PastTrips } from './past-trips';
import { rememberMarkSpecies } from './use-mark-species';
import { deck as msg, term } from '../../words';

export interface TripStart {
  purpose: NonNullable<Trip['purpose']>;
  goal: NonNullable<Trip['goal']>;
  crew: string | null;
}

const GOALS = [
  { value: 'action', label: msg('startTrip.action'), hint: msg('startTrip.aCoupleOfWilling') },
  { value: 'size', label: msg('startTrip.size'), hint: msg('startTrip.fishOfASize') },
  { value: 'best', label: msg('startTrip.bestFew'), hint: msg('startTrip.theFewBigOnes') },
] as const;
const PURPOSES = ['guide', 'practice', 'tournament', 'scout'] as const;

/** What the Deck shows before a trip: the one thing to do next. */
export function StartTrip({
  onStart,
  onUndo,
  failed,
}: {
  onStart: (start: TripStart) => void;
  /** Brings back the trip that was just deleted; null where none was. */
  onUndo: (() => void) | null;
  failed: string | null;
}) {
  const { water, species, speciesKnown, setSpecies } = useWaterState();
  const [goal, setGoal] = useState<TripStart['goal']>('action');
  const [purpose, setPurpose] = useState<TripStart['purpose']>('guide');
  const [crew, setCrew] = useState('');
  // Asked the first time, remembered from then on.
  const [target, setTarget] = useState(speciesKnown ? species.name : '');
  const others = water.species.filter((s) => !water.logged.includes(s.name));
  return (
    <form
      className="mx-auto flex min-h-full max-w-md flex-col justify-center gap-5 p-6 short:gap-2 short:py-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (target && target !== 'not sure') setSpecies(target);
        if (!speciesKnown || target !== species.name) rememberMarkSpecies(water.id, target === 'not sure' ? null : target);
        onStart({ goal, purpose, crew: crew.trim() || null });
      }}
    >
      {onUndo && (
        <p role="status" className="flex items-center justify-between gap-3 border-l-4 border-act pl-3">
          {msg('startTrip.tripDeletedItIs')}
          <button type="button" className="btn touch-target px-3" onClick={onUndo}>
            <Undo2 size={18} aria-hidden /> {msg('startTrip.undo')}
          </button>
        </p>
      )}
      <h1 className="text-2xl font-bold">{msg('startTrip.aTripOn', { name: water.name })}</h1>
      <label className="flex items-center justify-between gap-4">
        <span className="text-mute">{msg('startTrip.whichFishAreYou')}</span>
        <select className="select h-12 w-52 font-semibold" value={target} required onChange={(e) => setTarget(e.target.value)}>
          <option value="" disabled>
            {msg('startTrip.choose')}
          </option>
          {water.logged.length > 0 && (
            <optgroup label={msg('startTrip.inThisLog')}>
              {water.logged.map((name) => (
                <option key={name} value={name}>
                  {term(name)}
                </option>
              ))}
            </optgroup>
          )}
          <option value="not sure">{msg('startTrip.noFishInParticular')}</option>
          <optgroup label={msg('startTrip.species')}>
            {others.map((s) => (
              <option key={s.name} value={s.name}>
                {term(s.name)}
              </option>
            ))}
          </optgroup>
        </select>
      </label>
      <fieldset>
        <legend className="mb-2 text-mute">{msg('startTrip.todaysGoal')}</legend>
        <div className="grid grid-cols-3 gap-2">
          {GOALS.map((g) => (
            <label
              key={g.value}
              className={`flex min-h-20 cursor-pointer flex-col items-center justify-center rounded-box border-2 p-2 text-center has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-act ${goal === g.value ? 'border-act bg-surface font-bold' : 'border-line'}`}
            >
              <input type="radio" name="goal" className="sr-only" checked={goal === g.value} onChange={() => setGoal(g.value)} />
              {g.label}
              <small className="font-normal text-mute">{g.hint}</small>
            </label>
          ))}
        </div>
      </fieldset>
      <label className="flex items-center justify-between gap-4">
        <span className="text-mute">{msg('startTrip.kindOfTrip')}</span>
        <select className="select h-11 w-52" value={purpose} onChange={(e) => setPurpose(PURPOSES[e.target.selectedIndex])}>
          {PURPOSES.map((p) => (
            <option key={p} value={p}>
              {term(p)}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center justify-between gap-4">
        <span className="text-mute">{msg('startTrip.crew')}</span>
        <input
          className="input h-11 w-52"
          maxLength={400}
          placeholder={msg('startTrip.namesOrNumber')}
          value={crew}
          onChange={(e) => setCrew(e.target.value)}
        />
      </label>
      <button type="submit" className="btn btn-primary h-16 text-xl">
        {msg('startTrip.startTheTrip')}
      </button>
      {failed && (
        <p role="alert" className="text-warn">
          {failed}
        </p>
      )}
      <p className="text-sm text-mute">{msg('startTrip.fromThenOnThe')}</p>
      <PastTrips />
    </form>
  );
}
