import { useState } from 'react';
import { type Rig } from '@restless-shoal/core/sonar';
import { setRig, useRig } from '../../state/rig';
import { readNumber } from '../../parts/read-number';

const FIELDS: { name: Exclude<keyof Rig, 'corrected'>; label: string; least: number; most: number }[] = [
  { name: 'forward', label: 'Transducer forward of the antenna', least: -30, most: 30 },
  { name: 'starboard', label: 'Transducer to starboard of it', least: -10, most: 10 },
  { name: 'transducerDepth', label: 'Transducer below the surface', least: 0, most: 20 },
  { name: 'bow', label: 'Who casts, forward of the antenna', least: -30, most: 30 },
];

/** Where antenna, transducer and the person casting are: marks and casts are reckoned from there. Kept as it is typed. */
export function RigFields() {
  const rig = useRig();
  const [typed, setTyped] = useState<Record<string, string>>({});
  return (
    <details className="mt-3 border-t border-line pt-3">
      <summary className="touch-target cursor-pointer content-center font-semibold">How the sonar is mounted</summary>
      {FIELDS.map(({ name, label, least, most }) => {
        const text = typed[name] ?? String(rig[name]);
        const value = readNumber(text);
        const wrong = !(value >= least && value <= most);
        return (
          <label key={name} className="grid grid-cols-[1fr_5rem_1.5rem] items-center gap-2 py-1">
            <span>
              {label}
              {wrong && (
                <span role="alert" className="block text-sm text-warn">
                  from {least} to {most} m; kept: {rig[name]} m
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
                if (next >= least && next <= most) setRig({ ...rig, [name]: next });
              }}
            />
            <span className="text-mute">m</span>
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
        The side-scan shows distances over the ground, not slant ranges
      </label>
    </details>
  );
}
