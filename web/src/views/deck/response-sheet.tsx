import { useState } from 'react';
import { FATES, RESPONSES, type Response } from '@restless-shoal/core/logbook';
import { massFromLength, type SpeciesProfile } from '@restless-shoal/core/species';
import { formatDepth, parseMeasure, toUnit } from '@restless-shoal/core/units';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { clockInZone } from '../../parts/format';
import { readNumber } from '../../parts/read-number';
import { useUnits } from '../../state/units';

type Stored = Response & { id: string };

/** What a fish did: everything about it, to be put right. */
export function ResponseSheet({
  response,
  species,
  zone,
  onChange,
  onRemove,
  onClose,
}: {
  response: Stored;
  species: SpeciesProfile[];
  zone: string | null;
  onChange: (change: Partial<Response>) => void;
  onRemove: () => void;
  onClose: () => void;
}) {
  const units = useUnits();
  const [length, setLength] = useState(response.length_m == null ? '' : String(Math.round(response.length_m * 1000) / 10));
  const [mass, setMass] = useState(response.mass_kg == null ? '' : String(response.mass_kg));
  const [depth, setDepth] = useState(response.depth_m == null ? '' : toUnit(response.depth_m, 'depth', units).toFixed(1));
  const [lure, setLure] = useState(response.lure ?? '');
  const [notes, setNotes] = useState(response.notes ?? '');
  const [wrong, setWrong] = useState<string | null>(null);
  const profile = species.find((s) => s.name === response.species);
  const save = (): void => {
    const [cm, kg] = [length.trim() === '' ? null : readNumber(length), mass.trim() === '' ? null : readNumber(mass)];
    if (cm !== null && !(cm > 0 && cm <= 1200)) return setWrong('The length must be from 0 to 1200 cm.');
    if (kg !== null && !(kg > 0 && kg <= 2000)) return setWrong('The mass must be from 0 to 2000 kg.');
    let metres: number | null;
    try {
      metres = depth.trim() === '' ? null : parseMeasure(depth, 'depth', units.depth);
    } catch {
      return setWrong(`The depth must be a number in ${units.depth}.`);
    }
    if (metres !== null && !(metres >= 0 && metres <= 500)) return setWrong(`The depth must be from 0 to ${formatDepth(500, units)}.`);
    onChange({
      length_m: cm === null ? null : cm / 100,
      mass_kg: kg,
      depth_m: metres === null ? null : Number(metres.toFixed(2)),
      lure: lure.trim() || null,
      notes: notes.trim() || null,
    });
    onClose();
  };
  const estimated = profile && readNumber(length) > 0 ? massFromLength(profile, readNumber(length) / 100) : null;
  const field = 'grid grid-cols-[6rem_1fr] items-center gap-3 py-1';
  return (
    <Dialog title={`${clockInZone(new Date(response.time), zone)} · what it did`} onClose={onClose}>
      <div role="group" aria-label="What it did" className="grid grid-cols-3 gap-1.5 pb-2">
        {RESPONSES.map((r) => (
          <button
            key={r}
            type="button"
            aria-pressed={r === response.response}
            className={`btn h-11 capitalize ${r === response.response ? 'btn-primary' : ''}`}
            onClick={() => onChange({ response: r })}
          >
            {r}
          </button>
        ))}
      </div>
      <label className={field}>
        <span className="text-sm text-mute">Species</span>
        <select
          className="select h-11 w-full"
          value={response.species ?? ''}
          onChange={(e) => onChange({ species: e.target.value || null })}
        >
          <option value="">not said</option>
          {species.map((s) => (
            <option key={s.name}>{s.name}</option>
          ))}
        </select>
      </label>
      <label className={field}>
        <span className="text-sm text-mute">Length, cm</span>
        <input className="input num h-11 w-full" inputMode="decimal" value={length} onChange={(e) => setLength(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">Mass, kg</span>
        <input
          className="input num h-11 w-full"
          inputMode="decimal"
          value={mass}
          placeholder={estimated === null ? '' : `about ${estimated.toFixed(1)} by its length`}
          onChange={(e) => setMass(e.target.value)}
        />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">Depth, {units.depth}</span>
        <input className="input num h-11 w-full" inputMode="decimal" value={depth} onChange={(e) => setDepth(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">Lure</span>
        <input className="input h-11 w-full" value={lure} maxLength={200} onChange={(e) => setLure(e.target.value)} />
      </label>
      <div role="group" aria-label="Fate" className={field}>
        <span className="text-sm text-mute">Fate</span>
        <span className="flex gap-1.5">
          {FATES.map((fate) => (
            <button
              key={fate}
              type="button"
              aria-pressed={response.fate === fate}
              className={`btn h-11 flex-1 capitalize ${response.fate === fate ? 'btn-primary' : ''}`}
              onClick={() => onChange({ fate: response.fate === fate ? null : fate })}
            >
              {fate}
            </button>
          ))}
        </span>
      </div>
      <label className={field}>
        <span className="text-sm text-mute">Notes</span>
        <input className="input h-11 w-full" value={notes} maxLength={4000} onChange={(e) => setNotes(e.target.value)} />
      </label>
      {wrong && (
        <p role="alert" className="text-warn">
          {wrong}
        </p>
      )}
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={save}>
        Save
      </button>
      <DeleteButton
        label={response.response === 'landed' ? 'Delete fish' : 'Delete response'}
        goes={`“${[response.response, response.species].filter(Boolean).join(', ')}” of ${clockInZone(new Date(response.time), zone)} goes.`}
        onDelete={() => {
          onRemove();
          onClose();
        }}
        className="mt-2"
      />
    </Dialog>
  );
}
