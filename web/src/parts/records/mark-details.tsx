import { useState } from 'react';
import type { Contact } from '@restless-shoal/core/logbook';
import type { SpeciesProfile } from '@restless-shoal/core/species';
import type { StoredContact } from '../../api/queries';
import { deck as msg, term } from '../../words';
import { LikelySpecies } from './likely-species';

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
  water,
  contact,
  species,
  onChange,
}: {
  water: string;
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
        <div role="group" aria-label={msg('markDetails.howMany')} className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
          <span className="text-sm text-mute">{msg('markDetails.howMany')}</span>
          <span className="flex flex-wrap items-center gap-1">
            <button
              type="button"
              className="btn touch-target px-4 text-lg"
              aria-label={msg('markDetails.oneFewer')}
              onClick={() => count(-1)}
            >
              −
            </button>
            <b className="num min-w-10 text-center text-lg">{c.count ?? '–'}</b>
            <button
              type="button"
              className="btn touch-target px-4 text-lg"
              aria-label={msg('markDetails.oneMore')}
              onClick={() => count(1)}
            >
              +
            </button>
            {(
              [
                [5, msg('markDetails.few')],
                [30, msg('markDetails.dozens')],
                [300, msg('markDetails.hundreds')],
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
          <LikelySpecies
            water={water}
            contact={c}
            species={species}
            onSpecies={(name, confidence) => onChange({ species: name, confidence })}
          />
          <label className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
            <span className="text-sm text-mute">{msg('markDetails.species')}</span>
            <select
              className="select h-11 w-full"
              value={c.species ?? ''}
              onChange={(e) => onChange({ species: e.target.value || null, confidence: e.target.value ? (c.confidence ?? 0.7) : null })}
            >
              <option value="">{msg('markDetails.notSaid')}</option>
              {species.map((s) => (
                <option key={s.name} value={s.name}>
                  {term(s.name)}
                </option>
              ))}
            </select>
          </label>
          {c.species && (
            <Choice
              label={msg('markDetails.howSure')}
              value={c.confidence}
              options={[
                [0.4, msg('markDetails.maybe')],
                [0.7, msg('markDetails.likely')],
                [0.9, msg('markDetails.veryLikely')],
              ]}
              onChange={(confidence) => onChange({ confidence })}
            />
          )}
          <Choice
            label={msg('markDetails.knownBy')}
            value={c.confirmed === 'none' ? null : c.confirmed}
            options={[
              ['catch', msg('markDetails.aCatch')],
              ['camera', term('camera')],
              ['sight', msg('markDetails.byEye')],
            ]}
            onChange={(confirmed) => onChange({ confirmed: confirmed ?? 'none', ...(confirmed ? { confidence: 1 } : {}) })}
          />
          <Choice
            label={msg('markDetails.size')}
            value={c.size}
            options={plain('small', 'medium', 'large')}
            onChange={(size) => onChange({ size })}
          />
          <Choice
            label={msg('markDetails.core')}
            value={c.core}
            options={plain('weak', 'medium', 'strong')}
            onChange={(core) => onChange({ core })}
          />
        </>
      )}
      {swims && (
        <>
          <Choice
            label={msg('markDetails.form')}
            value={c.form}
            options={plain('arches', 'streaks', 'cloud', 'ball', 'specks', 'mass')}
            onChange={(form) => onChange({ form })}
          />
          <Choice
            label={msg('markDetails.howTight')}
            value={c.density}
            options={plain('loose', 'medium', 'tight')}
            onChange={(density) => onChange({ density })}
          />
        </>
      )}
      <Choice
        label={msg('markDetails.bottom')}
        value={c.hardness === null ? null : c.hardness < 0.35 ? 0.2 : c.hardness > 0.65 ? 0.8 : 0.5}
        options={[
          [0.2, term('soft')],
          [0.5, msg('markDetails.mixed')],
          [0.8, term('hard')],
        ]}
        onChange={(hardness) => onChange({ hardness })}
      />
      <Choice
        label={msg('markDetails.cover')}
        value={c.cover}
        options={plain('brush', 'timber', 'rock', 'dock', 'weed', 'wreck', 'reef', 'none')}
        onChange={(cover) => onChange({ cover })}
      />
      {swims && c.cover && c.cover !== 'none' && (
        <Choice
          label={msg('markDetails.sideOfIt')}
          value={c.side_of_cover}
          options={plain('up-current', 'down-current', 'wind-blown', 'sheltered', 'over', 'inside')}
          onChange={(side_of_cover) => onChange({ side_of_cover })}
        />
      )}
      {fish && (
        <Choice
          label={msg('markDetails.baitNear')}
          value={/bait (none|loose|tight)/.exec(c.notes ?? '')?.[1] ?? null}
          options={plain('none', 'loose', 'tight')}
          onChange={(near) => {
            const rest = (c.notes ?? '').replace(/;? ?bait (none|loose|tight)( within 20 m)?/, '').trim();
            // Stored, as the format has it: not in the reader's language.
            const said = near && `bait ${near}${near === 'none' ? '' : ' within 20 m'}`;
            const all = [rest, said].filter(Boolean).join('; ') || null;
            setNotes(all ?? '');
            onChange({ notes: all });
          }}
        />
      )}
      {swims && (
        <Choice
          label={msg('markDetails.doing')}
          value={c.behaviour}
          options={plain('still', 'cruising', 'feeding', 'rising', 'fleeing')}
          onChange={(behaviour) => onChange({ behaviour })}
        />
      )}
      <label className="grid grid-cols-[5.5rem_1fr] items-center gap-2 py-1">
        <span className="text-sm text-mute">{msg('markDetails.notes')}</span>
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
