import { useState } from 'react';
import { PastTrips } from './past-trips';

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
export function StartTrip({ water, onStart, failed }: { water: string; onStart: (start: TripStart) => void; failed: string | null }) {
  const [goal, setGoal] = useState('action');
  const [purpose, setPurpose] = useState('guide');
  return (
    <form
      className="mx-auto flex min-h-full max-w-md flex-col justify-center gap-5 p-6"
      onSubmit={(event) => {
        event.preventDefault();
        onStart({ goal, purpose });
      }}
    >
      <h1 className="text-2xl font-bold">A trip on {water}</h1>
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
        <select className="select h-11 w-48" value={purpose} onChange={(e) => setPurpose(e.target.value)}>
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
