import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import { useWaterState } from '../../state/water';
import { PastTrips } from './past-trips';
import { rememberMarkSpecies } from './use-mark-species';

export interface TripStart {
  purpose: string;
  goal: string;
}

const GOALS = [
  { value: 'action', label: 'Action', hint: 'a couple of willing fish' },
  { value: 'size', label: 'Size', hint: 'fish of a size' },
  { value: 'best', label: 'Best few', hint: 'the few big ones' },
];

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
  const [goal, setGoal] = useState('action');
  const [purpose, setPurpose] = useState('guide');
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
        onStart({ goal, purpose });
      }}
    >
      {onUndo && (
        <p role="status" className="flex items-center justify-between gap-3 border-l-4 border-act pl-3">
          Trip deleted. It is in the trash for 90 days.
          <button type="button" className="btn touch-target px-3" onClick={onUndo}>
            <Undo2 size={18} aria-hidden /> Undo
          </button>
        </p>
      )}
      <h1 className="text-2xl font-bold">A trip on {water.name}</h1>
      <label className="flex items-center justify-between gap-4">
        <span className="text-mute">Which fish are you after?</span>
        <select className="select h-12 w-52 font-semibold" value={target} required onChange={(e) => setTarget(e.target.value)}>
          <option value="" disabled>
            choose …
          </option>
          {water.logged.length > 0 && (
            <optgroup label="in this log">
              {water.logged.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </optgroup>
          )}
          <option value="not sure">no fish in particular</option>
          <optgroup label="species">
            {others.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </optgroup>
        </select>
      </label>
      <fieldset>
        <legend className="mb-2 text-mute">What is wanted today?</legend>
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
        <span className="text-mute">Kind of trip</span>
        <select className="select h-11 w-52" value={purpose} onChange={(e) => setPurpose(e.target.value)}>
          {['guide', 'practice', 'tournament', 'scout'].map((p) => (
            <option key={p}>{p}</option>
          ))}
        </select>
      </label>
      <button type="submit" className="btn btn-primary h-16 text-xl">
        Start the trip
      </button>
      {failed && (
        <p role="alert" className="text-warn">
          {failed}
        </p>
      )}
      <p className="text-sm text-mute">
        From then on the track records where you look, with and without fish. The boat’s position comes from this device, or is set by hand.
      </p>
      <PastTrips />
    </form>
  );
}
