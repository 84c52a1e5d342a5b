import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { readPosition } from '@restless-shoal/core/geo';
import { parseMeasure, toUnit } from '@restless-shoal/core/units';
import { ask } from '../../api/client';
import type { WaterSummary } from '../../api/queries';
import { DeleteButton } from '../../parts/delete-button';
import { Dialog } from '../../parts/dialog';
import { zoneWords } from '../../parts/format';
import { POSITIONS } from '../../parts/position-field';
import { refresh } from '../../state/jobs';
import { useUnits } from '../../state/units';
import { WATER_KINDS } from './new-water';
import { Problem } from '../../parts/problem';
import { waters as msg, term } from '../../words';
import { told } from '../../parts/told';

const zones = (own: string | null): string[] => {
  const all = Intl.supportedValuesOf('timeZone');
  return own === null || all.includes(own) ? all : [own, ...all];
};

/** What a water is: its name, kind, place, time zone and altitude; put aside, or deleted. */
export function WaterSheet({ water, onClose }: { water: WaterSummary; onClose: () => void }) {
  const queries = useQueryClient();
  const units = useUnits();
  const [name, setName] = useState(water.name);
  const [kind, setKind] = useState(water.kind ?? '');
  const [zone, setZone] = useState(water.time_zone ?? '');
  const [altitude, setAltitude] = useState(water.altitude_m === null ? '' : String(Math.round(toUnit(water.altitude_m, 'depth', units))));
  const [deepest, setDeepest] = useState(water.deepest_m === null ? '' : toUnit(water.deepest_m, 'depth', units).toFixed(1));
  const [place, setPlace] = useState(water.latitude === null ? '' : `${water.latitude}, ${water.longitude}`);
  const [failed, setFailed] = useState<string | null>(null);
  const run = async (work: () => Promise<unknown>): Promise<void> => {
    setFailed(null);
    try {
      await work();
      await Promise.all([refresh(queries), queries.invalidateQueries({ queryKey: ['trash'] })]);
      onClose();
    } catch (error) {
      setFailed(told(error));
    }
  };
  const save = (): Promise<void> =>
    run(async () => {
      const measure = (text: string, what: string): number | null => {
        if (!text.trim()) return null;
        try {
          return parseMeasure(text, 'depth', units.depth);
        } catch {
          throw new Error(msg('waterSheet.mustBeANumber', { what, depth: units.depth }));
        }
      };
      const position = place.trim() ? readPosition(place) : null;
      if (place.trim() && !position) throw new Error(msg('waterSheet.thePositionCouldNot', { positions: POSITIONS }));
      const body = {
        name: name.trim(),
        kind: kind || null,
        time_zone: zone || null,
        altitude_m: measure(altitude, msg('waterSheet.theAltitude')),
        deepest_m: measure(deepest, msg('waterSheet.theDepth')),
        latitude: position?.latitude ?? null,
        longitude: position?.longitude ?? null,
      };
      await ask('PUT /waters/:water', { water: water.id }, { body });
    });
  const field = 'grid grid-cols-[8.5rem_1fr] items-center gap-3 py-1';
  const kinds: string[] = kind && !(WATER_KINDS as readonly string[]).includes(kind) ? [...WATER_KINDS, kind] : [...WATER_KINDS];
  return (
    <Dialog title={water.name} onClose={onClose}>
      <label className={field}>
        <span className="text-sm text-mute">{msg('waterSheet.name')}</span>
        <input className="input h-11 w-full" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('waterSheet.kind')}</span>
        <select className="select h-11 w-full" value={kind} onChange={(e) => setKind(e.target.value)}>
          <option value="">{msg('waterSheet.notSaid')}</option>
          {kinds.map((k) => (
            <option key={k} value={k}>
              {term(k)}
            </option>
          ))}
        </select>
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('waterSheet.timeZone')}</span>
        <select className="select h-11 w-full" value={zone} onChange={(e) => setZone(e.target.value)}>
          <option value="">{msg('waterSheet.thisDevices')}</option>
          {zones(water.time_zone).map((z) => (
            <option key={z} value={z}>
              {zoneWords(z)}
            </option>
          ))}
        </select>
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('waterSheet.altitude', { depth: units.depth })}</span>
        <input className="input num h-11 w-full" inputMode="decimal" value={altitude} onChange={(e) => setAltitude(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('waterSheet.deepestWater', { depth: units.depth })}</span>
        <input className="input num h-11 w-full" inputMode="decimal" value={deepest} onChange={(e) => setDeepest(e.target.value)} />
      </label>
      <label className={field}>
        <span className="text-sm text-mute">{msg('waterSheet.whereItLies')}</span>
        <input
          className="input num h-11 w-full"
          placeholder={water.soundings === null ? msg('waterSheet.latitudeLongitude') : msg('waterSheet.asItsOutlineSays')}
          value={place}
          onChange={(e) => setPlace(e.target.value)}
        />
      </label>
      <Problem words={failed} />
      <button type="button" className="btn btn-primary mt-3 h-12 w-full" onClick={() => void save()}>
        {msg('waterSheet.save')}
      </button>
      <button
        type="button"
        className="btn mt-2 h-12 w-full"
        onClick={() =>
          void run(() => ask('POST /waters/:water/archive', { water: water.id }, { body: { archived: water.archived_at === null } }))
        }
      >
        {water.archived_at === null ? msg('waterSheet.archiveKeepItOut') : msg('waterSheet.takeItOutOf')}
      </button>
      <DeleteButton
        label={msg('waterSheet.deleteWater')}
        goes={msg('waterSheet.goesWithTripMark', { name: water.name, trips: water.trips, contacts: water.contacts })}
        onDelete={() => void run(() => ask('DELETE /waters/:water', { water: water.id }))}
        className="mt-2"
      />
    </Dialog>
  );
}
