import { useState } from 'react';
import { GEAR_KINDS, type Gear } from '@restless-shoal/core/logbook';
import { parseMeasure, toUnit } from '@restless-shoal/core/units';
import type { StoredGear } from '../../api/queries';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { readNumber } from '../../parts/read-number';
import { told } from '../../parts/told';
import { useUnits } from '../../state/units';
import { capital, logbook as msg, term } from '../../words';

type Kind = Gear['kind'];
type Text = 'colour' | 'presentation' | 'settings' | 'notes';
type Measured = 'mass_g' | 'sink_ms' | 'length_m' | 'draught_m';

/** What can be said of each kind, in order. */
const FIELDS: Record<Kind, readonly (Text | Measured)[]> = {
  lure: ['mass_g', 'colour', 'sink_ms', 'presentation', 'notes'],
  rod: ['length_m', 'notes'],
  rig: ['settings', 'notes'],
  boat: ['length_m', 'draught_m', 'notes'],
};
const MOST: Record<Measured, number> = { mass_g: 10_000, sink_ms: 5, length_m: 100, draught_m: 20 };
const isMeasured = (field: Text | Measured): field is Measured => field in MOST;

/** A piece of gear: its kind, its name, and what there is to know of it. */
export function GearSheet({
  gear,
  taken,
  onSave,
  onDelete,
  onClose,
}: {
  /** One that is changed; null for a new one. */
  gear: StoredGear | null;
  /** All there is: a name is of one of its kind. */
  taken: readonly StoredGear[];
  onSave: (gear: Partial<Gear>) => Promise<void>;
  onDelete?: () => Promise<void>;
  onClose: () => void;
}) {
  const units = useUnits();
  const [kind, setKind] = useState<Kind>(gear?.kind ?? 'lure');
  const [name, setName] = useState(gear?.name ?? '');
  const shown = (field: Text | Measured): string => {
    const value = gear?.[field] ?? null;
    if (value === null) return '';
    if (!isMeasured(field) || field === 'mass_g') return String(value);
    return String(Number(toUnit(Number(value), 'depth', units).toFixed(3)));
  };
  const [values, setValues] = useState(() => Object.fromEntries([...new Set(Object.values(FIELDS).flat())].map((f) => [f, shown(f)])));
  const [wrong, setWrong] = useState<string | null>(null);
  const unitOf = (field: Measured): string => (field === 'mass_g' ? 'g' : field === 'sink_ms' ? `${units.depth}/s` : units.depth);
  const attempt = (work: Promise<void>): void => void work.then(onClose, (error) => setWrong(told(error)));
  const save = (): void => {
    if (!name.trim()) return setWrong(msg('gearSheet.giveItAName'));
    const own = (g: StoredGear): boolean => g.id !== gear?.id && g.kind === kind && g.name.toLowerCase() === name.trim().toLowerCase();
    if (taken.some(own)) return setWrong(msg('gearSheet.nameTaken', { name: name.trim() }));
    const row: Record<string, string | number | null> = { kind, name: name.trim() };
    for (const field of FIELDS[kind]) {
      const typed = values[field].trim();
      if (!isMeasured(field)) row[field] = typed || null;
      // What was not touched keeps all its digits.
      else if (typed === '' || typed === shown(field)) row[field] = typed === '' ? null : (gear?.[field] ?? null);
      else {
        const plain = readNumber(typed);
        let value = NaN;
        try {
          value = field === 'mass_g' ? plain : parseMeasure(typed, 'depth', units.depth);
        } catch {
          // Told below.
        }
        if (!(value >= 0 && value <= MOST[field]))
          return setWrong(msg('gearSheet.isWrong', { field: msg(`gearSheet.${field}`), unit: unitOf(field) }));
        row[field] = Number(value.toFixed(4));
      }
    }
    attempt(onSave(row as Partial<Gear>));
  };
  const line = 'grid grid-cols-[8rem_1fr] items-center gap-3 py-1';
  return (
    <Dialog title={gear ? gear.name : msg('gearSheet.newGear')} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        {!gear && (
          <div role="group" aria-label={msg('gearSheet.kind')} className="grid grid-cols-4 gap-1.5 pb-2">
            {GEAR_KINDS.map((k) => (
              <button
                key={k}
                type="button"
                aria-pressed={k === kind}
                className={`btn h-11 px-1 ${k === kind ? 'btn-primary' : ''}`}
                onClick={() => setKind(k)}
              >
                {capital(term(k))}
              </button>
            ))}
          </div>
        )}
        <label className={line}>
          <span className="text-mute">{msg('spotSheet.name')}</span>
          <input className="input h-11 w-full" maxLength={200} value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        {FIELDS[kind].map((field) => (
          <label key={field} className={line}>
            <span className="text-mute">
              {msg(`gearSheet.${field}`)}
              {isMeasured(field) && `, ${unitOf(field)}`}
            </span>
            <input
              className={`input h-11 w-full ${isMeasured(field) ? 'num' : ''}`}
              inputMode={isMeasured(field) ? 'decimal' : 'text'}
              maxLength={400}
              value={values[field]}
              onChange={(e) => setValues({ ...values, [field]: e.target.value })}
            />
          </label>
        ))}
        {wrong && (
          <p role="alert" className="mt-2 text-warn">
            {wrong}
          </p>
        )}
        <button type="submit" className="btn btn-primary mt-3 h-12 w-full">
          {msg('tripSheet.save')}
        </button>
      </form>
      {gear && onDelete && (
        <DeleteButton
          label={msg('gearSheet.delete')}
          goes={msg('gearSheet.goes', { name: gear.name })}
          onDelete={() => attempt(onDelete())}
        />
      )}
    </Dialog>
  );
}
