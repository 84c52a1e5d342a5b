import { useState } from 'react';
import type { Contact } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { StoredContact } from '../../api/queries';

type Change = Partial<Contact>;

/** One of a few in a touch; touched again it is not said any more. */
function Choice<T extends string | number>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T | null;
  options: readonly (readonly [T, string])[];
  onChange: (value: T | null) => void;
}) {
  return (
    <div role="group" aria-label={label} className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
      <span className="text-sm text-mute">{label}</span>
      <span className="flex flex-wrap gap-1">
        {options.map(([option, words]) => (
          <button
            key={words}
            type="button"
            aria-pressed={value === option}
            className={`btn touch-target px-2.5 ${value === option ? 'btn-primary' : ''}`}
            onClick={() => onChange(value === option ? null : option)}
          >
            {words}
          </button>
        ))}
      </span>
    </div>
  );
}

const plain = <T extends string>(...values: T[]): [T, T][] => values.map((v) => [v, v]);

/** All that can be said of a mark beside where it is. Each touch is kept at once. */
export function MarkDetails({
  contact,
  species,
  onChange,
}: {
  contact: StoredContact;
  species: SpeciesProfile[];
  onChange: (change: Change) => void;
}) {
  const c = contact;
  const fish = c.kind === 'fish';
  const swims = fish || c.kind === 'bait';
  const [notes, setNotes] = useState(c.notes ?? '');
  const count = (by: number): void => onChange({ count: Math.max(1, (c.count ?? 1) + by) });
  return (
    <div className="mt-3 border-t border-line pt-2">
      {swims && (
        <div role="group" aria-label="How many" className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
          <span className="text-sm text-mute">How many</span>
          <span className="flex flex-wrap items-center gap-1">
            <button type="button" className="btn touch-target px-4 text-lg" aria-label="One fewer" onClick={() => count(-1)}>
              −
            </button>
            <b className="num min-w-10 text-center text-lg">{c.count ?? '–'}</b>
            <button type="button" className="btn touch-target px-4 text-lg" aria-label="One more" onClick={() => count(1)}>
              +
            </button>
            {(
              [
                [5, 'few'],
                [30, 'dozens'],
                [300, 'hundreds'],
              ] as const
            ).map(([n, words]) => (
              <button key={words} type="button" className="btn touch-target px-2.5" onClick={() => onChange({ count: n })}>
                {words}
              </button>
            ))}
          </span>
        </div>
      )}
      {fish && (
        <>
          <label className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
            <span className="text-sm text-mute">Species</span>
            <select
              className="select h-11 w-full"
              value={c.species ?? ''}
              onChange={(e) => onChange({ species: e.target.value || null, confidence: e.target.value ? (c.confidence ?? 0.7) : null })}
            >
              <option value="">not said</option>
              {species.map((s) => (
                <option key={s.name}>{s.name}</option>
              ))}
            </select>
          </label>
          {c.species && (
            <Choice
              label="How sure"
              value={c.confidence}
              options={[
                [0.4, 'maybe'],
                [0.7, 'likely'],
                [0.9, 'very likely'],
              ]}
              onChange={(confidence) => onChange({ confidence })}
            />
          )}
          <Choice
            label="Known by"
            value={c.confirmed === 'none' ? null : c.confirmed}
            options={[
              ['catch', 'a catch'],
              ['camera', 'camera'],
              ['sight', 'sight'],
            ]}
            onChange={(confirmed) => onChange({ confirmed: confirmed ?? 'none', ...(confirmed ? { confidence: 1 } : {}) })}
          />
          <Choice label="Size" value={c.size} options={plain('small', 'medium', 'large')} onChange={(size) => onChange({ size })} />
          <Choice label="Core" value={c.core} options={plain('weak', 'medium', 'strong')} onChange={(core) => onChange({ core })} />
        </>
      )}
      {swims && (
        <>
          <Choice
            label="Form"
            value={c.form}
            options={plain('arches', 'streaks', 'cloud', 'ball', 'specks', 'mass')}
            onChange={(form) => onChange({ form })}
          />
          <Choice
            label="How tight"
            value={c.density}
            options={plain('loose', 'medium', 'tight')}
            onChange={(density) => onChange({ density })}
          />
        </>
      )}
      <Choice
        label="Bottom"
        value={c.hardness === null ? null : c.hardness < 0.35 ? 0.2 : c.hardness > 0.65 ? 0.8 : 0.5}
        options={[
          [0.2, 'soft'],
          [0.5, 'mixed'],
          [0.8, 'hard'],
        ]}
        onChange={(hardness) => onChange({ hardness })}
      />
      <Choice
        label="Cover"
        value={c.cover}
        options={plain('brush', 'timber', 'rock', 'dock', 'weed', 'wreck', 'none')}
        onChange={(cover) => onChange({ cover })}
      />
      {swims && c.cover && c.cover !== 'none' && (
        <Choice
          label="Side of it"
          value={c.side_of_cover}
          options={plain('up-current', 'down-current', 'wind-blown', 'sheltered', 'over', 'inside')}
          onChange={(side_of_cover) => onChange({ side_of_cover })}
        />
      )}
      {fish && (
        <Choice
          label="Bait near"
          value={/bait (none|loose|tight)/.exec(c.notes ?? '')?.[1] ?? null}
          options={plain('none', 'loose', 'tight')}
          onChange={(near) => {
            const rest = (c.notes ?? '').replace(/;? ?bait (none|loose|tight)( within 20 m)?/, '').trim();
            const said = near && `bait ${near}${near === 'none' ? '' : ' within 20 m'}`;
            const all = [rest, said].filter(Boolean).join('; ') || null;
            setNotes(all ?? '');
            onChange({ notes: all });
          }}
        />
      )}
      {swims && (
        <Choice
          label="Doing"
          value={c.behaviour}
          options={plain('still', 'cruising', 'feeding', 'rising', 'fleeing')}
          onChange={(behaviour) => onChange({ behaviour })}
        />
      )}
      <label className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
        <span className="text-sm text-mute">Notes</span>
        <input
          className="input h-11 w-full"
          value={notes}
          maxLength={4000}
          onChange={(e) => setNotes(e.target.value)}
          onBlur={() => notes !== (c.notes ?? '') && onChange({ notes: notes.trim() || null })}
        />
      </label>
    </div>
  );
}
