import { useState, type ReactNode } from 'react';
import { FATES, RESPONSES, type Response } from '@restless-shoal/core/logbook';
import { massFromLength, type SpeciesProfile } from '@restless-shoal/core/species';
import { parseMeasure, toUnit } from '@restless-shoal/core/units';
import { DeleteButton } from '../delete-button';
import { Dialog } from '../dialog';
import { clockInZone, fromLocalInput, toLocalInput } from '../format';
import { useUnits } from '../../state/units';
import type { StoredGear } from '../../api/queries';
import { fishUnit, inFishUnit, readFish } from '../fish-units';
import { GearChoice } from './gear-choice';
import { formatDepth, deck as msg, term } from '../../words';

type Stored = Response & { id: string };

/** What a fish did: everything about it, to be put right. */
export function ResponseSheet({
  response,
  species,
  zone,
  onChange,
  onRemove,
  extra,
  onClose,
}: {
  response: Stored;
  species: SpeciesProfile[];
  zone: string | null;
  onChange: (change: Partial<Response>) => void;
  onRemove: () => void;
  /** What else belongs to it: its pictures. */
  extra?: ReactNode;
  onClose: () => void;
}) {
  const units = useUnits();
  const [length, setLength] = useState(response.length_m == null ? '' : inFishUnit('length', response.length_m));
  const [mass, setMass] = useState(response.mass_kg == null ? '' : inFishUnit('mass', response.mass_kg));
  const [depth, setDepth] = useState(response.depth_m == null ? '' : toUnit(response.depth_m, 'depth', units).toFixed(1));
  const [lure, setLure] = useState(response.lure ?? '');
  const [gear, setGear] = useState<StoredGear | null>(null);
  const [rod, setRod] = useState(response.rod ?? '');
  const [angler, setAngler] = useState(response.angler ?? '');
  const [notes, setNotes] = useState(response.notes ?? '');
  const at = toLocalInput(new Date(response.time), zone);
  const [clock, setClock] = useState(at.slice(11));
  const [wrong, setWrong] = useState<string | null>(null);
  const profile = species.find((s) => s.name === response.species);
  const save = (): void => {
    const [long, kg] = [readFish('length', length), readFish('mass', mass)];
    if (long !== null && !(long > 0 && long <= 12)) return setWrong(msg('responseSheet.theLengthMustBe', { most: 12 }));
    if (kg !== null && !(kg > 0 && kg <= 2000)) return setWrong(msg('responseSheet.theMassMustBe', { most: 2000 }));
    let metres: number | null;
    try {
      metres = depth.trim() === '' ? null : parseMeasure(depth, 'depth', units.depth);
    } catch {
      return setWrong(msg('responseSheet.theDepthMustBe', { depth: units.depth }));
    }
    if (metres !== null && !(metres >= 0 && metres <= 500))
      return setWrong(msg('responseSheet.theDepthMustBe2', { formatDepth: formatDepth(500, units) }));
    // A time that was not touched keeps its seconds.
    const time = clock === at.slice(11) ? response.time : fromLocalInput(`${at.slice(0, 11)}${clock}`, zone)?.toISOString();
    if (time === undefined) return setWrong(msg('responseSheet.theTimeCouldNot'));
    onChange({
      time,
      length_m: long,
      mass_kg: kg,
      depth_m: metres === null ? null : Number(metres.toFixed(2)),
      lure: lure.trim() || null,
      ...(gear && gear.name === lure.trim() ? { lure_mass_g: gear.mass_g, lure_colour: gear.colour, presentation: gear.presentation } : {}),
      rod: rod.trim() || null,
      angler: angler.trim() || null,
      notes: notes.trim() || null,
    });
    onClose();
  };
  const long = readFish('length', length);
  const estimated = profile && long !== null && long > 0 ? massFromLength(profile, long) : null;
  const field = 'grid grid-cols-[6rem_1fr] items-center gap-3 py-1';
  return (
    <Dialog title={msg('responseSheet.whatItDid', { time: clockInZone(new Date(response.time), zone) })} onClose={onClose}>
      <div role="group" aria-label={msg('responseSheet.whatItDid2')} className="grid grid-cols-3 gap-1.5 pb-2">
        {RESPONSES.map((r) => (
          <button
            key={r}
            type="button"
            aria-pressed={r === response.response}
            className={`btn h-11 capitalize ${r === response.response ? 'btn-primary' : ''}`}
            onClick={() => onChange({ response: r })}
          >
            {term(r)}
          </button>
        ))}
      </div>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.time')}</span>
        <input type="time" className="input num h-11 w-full" value={clock} onChange={(e) => setClock(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.species')}</span>
        <select
          className="select h-11 w-full"
          value={response.species ?? ''}
          onChange={(e) => onChange({ species: e.target.value || null })}
        >
          <option value="">{msg('responseSheet.notSaid')}</option>
          {species.map((s) => (
            <option key={s.name} value={s.name}>
              {term(s.name)}
            </option>
          ))}
        </select>
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.lengthIn', { unit: fishUnit('length') })}</span>
        <input className="input num h-11 w-full" inputMode="decimal" value={length} onChange={(e) => setLength(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.massIn', { unit: fishUnit('mass') })}</span>
        <input
          className="input num h-11 w-full"
          inputMode="decimal"
          value={mass}
          placeholder={estimated === null ? '' : msg('responseSheet.aboutByItsLength', { estimated })}
          onChange={(e) => setMass(e.target.value)}
        />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.depth', { depth: units.depth })}</span>
        <input className="input num h-11 w-full" inputMode="decimal" value={depth} onChange={(e) => setDepth(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.lure')}</span>
        <input className="input h-11 w-full" value={lure} maxLength={200} onChange={(e) => setLure(e.target.value)} />
      </label>
      <GearChoice
        kind="lure"
        chosen={lure}
        onChoose={(g) => {
          setLure(g.name);
          setGear(g);
        }}
      />
      <div role="group" aria-label={msg('responseSheet.fate')} className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.fate')}</span>
        <span className="flex gap-1.5">
          {FATES.map((fate) => (
            <button
              key={fate}
              type="button"
              aria-pressed={response.fate === fate}
              className={`btn h-11 flex-1 capitalize ${response.fate === fate ? 'btn-primary' : ''}`}
              onClick={() => onChange({ fate: response.fate === fate ? null : fate })}
            >
              {term(fate)}
            </button>
          ))}
        </span>
      </div>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.rod')}</span>
        <input className="input h-11 w-full" value={rod} maxLength={200} onChange={(e) => setRod(e.target.value)} />
      </label>
      <GearChoice kind="rod" chosen={rod} onChoose={(g) => setRod(g.name)} />
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.angler')}</span>
        <input className="input h-11 w-full" value={angler} maxLength={200} onChange={(e) => setAngler(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('responseSheet.notes')}</span>
        <input className="input h-11 w-full" value={notes} maxLength={4000} onChange={(e) => setNotes(e.target.value)} />
      </label>
      {extra}
      {wrong && (
        <p role="alert" className="text-warn">
          {wrong}
        </p>
      )}
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={save}>
        {msg('responseSheet.save')}
      </button>
      <DeleteButton
        label={response.response === 'landed' ? msg('responseSheet.deleteFish') : msg('responseSheet.deleteResponse')}
        goes={msg('responseSheet.ofGoes', {
          Boolean: [response.response, response.species].filter(Boolean).join(', '),
          time: clockInZone(new Date(response.time), zone),
        })}
        onDelete={() => {
          onRemove();
          onClose();
        }}
        className="mt-2"
      />
    </Dialog>
  );
}
