import { useState } from 'react';
import { type Rig } from '@restless-shoal/core/sonar';
import { setRig, useRig } from '../../state/rig';
import { readNumber } from '../../parts/read-number';
import { deck as msg } from '../../words';

const FIELDS: { name: Exclude<keyof Rig, 'corrected' | 'gain' | 'leastEcho'>; label: string; min: number; max: number }[] = [
  { name: 'forward', label: msg('rigFields.transducerForwardOfThe'), min: -30, max: 30 },
  { name: 'starboard', label: msg('rigFields.transducerToStarboardOf'), min: -10, max: 10 },
  { name: 'transducerDepth', label: msg('rigFields.transducerBelowTheSurface'), min: 0, max: 20 },
  { name: 'bow', label: msg('rigFields.anglerForwardOfThe'), min: -30, max: 30 },
  { name: 'delay', label: msg('rigFields.delayOfThePicture'), min: 0, max: 20 },
];

/** Where antenna, transducer and the person casting are: marks and casts are reckoned from there. Kept as it is typed. */
export function RigFields() {
  const rig = useRig();
  const [typed, setTyped] = useState<Record<string, string>>({});
  return (
    <details className="mt-3 border-t border-line pt-3">
      <summary className="touch-target cursor-pointer content-center font-semibold">{msg('rigFields.howTheSonarIs')}</summary>
      {FIELDS.map(({ name, label, min, max }) => {
        const text = typed[name] ?? String(rig[name]);
        const value = readNumber(text);
        const wrong = !(value >= min && value <= max);
        return (
          <label key={name} className="grid grid-cols-[1fr_5rem_1.5rem] items-center gap-2 py-1">
            <span>
              {label}
              {wrong && (
                <span role="alert" className="block text-sm text-warn">
                  {msg(name === 'delay' ? 'rigFields.fromToSKept' : 'rigFields.fromToMKept', { min, max, rig: rig[name] })}
                </span>
              )}
            </span>
            <input
              inputMode="text"
              className="input num h-11"
              aria-invalid={wrong}
              value={text}
              onChange={({ target }) => {
                setTyped({ ...typed, [name]: target.value });
                const next = readNumber(target.value);
                if (next >= min && next <= max) setRig({ ...rig, [name]: next });
              }}
            />
            <span className="text-mute">{name === 'delay' ? 's' : 'm'}</span>
          </label>
        );
      })}
      <label className="flex items-center gap-3 py-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={rig.corrected}
          onChange={(e) => setRig({ ...rig, corrected: e.target.checked })}
        />
        {msg('rigFields.theSideScanShows')}
      </label>
    </details>
  );
}
