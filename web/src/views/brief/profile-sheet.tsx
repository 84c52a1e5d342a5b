import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { readDepthRule, type SpeciesProfile } from '@restless-shoal/core/species';
import { sendJson } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { NumberRow } from '../../parts/number-row';
import { readNumber } from '../../parts/read-number';
import { wantRefit } from '../../state/refit-wanted';
import { useWaterState } from '../../state/water';

interface Field {
  key: string;
  label: string;
  unit: string;
  get: (s: SpeciesProfile) => number;
  set: (s: SpeciesProfile, value: number) => SpeciesProfile;
}

const FIELDS: Field[] = [
  {
    key: 'preferred-low',
    label: 'Seeks water from',
    unit: '°C',
    get: (s) => s.preferred[0],
    set: (s, v) => ({ ...s, preferred: [v, s.preferred[1]] }),
  },
  { key: 'preferred-high', label: 'to', unit: '°C', get: (s) => s.preferred[1], set: (s, v) => ({ ...s, preferred: [s.preferred[0], v] }) },
  {
    key: 'upper',
    label: 'Leaves water warmer than',
    unit: '°C',
    get: (s) => s.upperAvoidance,
    set: (s, v) => ({ ...s, upperAvoidance: v }),
  },
  {
    key: 'stress',
    label: 'Released fish suffer above',
    unit: '°C',
    get: (s) => s.handlingStress,
    set: (s, v) => ({ ...s, handlingStress: v }),
  },
  { key: 'oxygen', label: 'Needs oxygen of', unit: 'mg/l', get: (s) => s.leastOxygen, set: (s, v) => ({ ...s, leastOxygen: v }) },
  {
    key: 'wood',
    label: 'Drawn to wood and rock',
    unit: '0–1',
    get: (s) => s.drawnTo.wood,
    set: (s, v) => ({ ...s, drawnTo: { ...s.drawnTo, wood: v } }),
  },
  {
    key: 'weed',
    label: 'Drawn to weed',
    unit: '0–1',
    get: (s) => s.drawnTo.weed,
    set: (s, v) => ({ ...s, drawnTo: { ...s.drawnTo, weed: v } }),
  },
  {
    key: 'hard',
    label: 'Drawn to hard bottom',
    unit: '0–1',
    get: (s) => s.drawnTo.hard,
    set: (s, v) => ({ ...s, drawnTo: { ...s.drawnTo, hard: v } }),
  },
];

const RULE = [
  { key: 'lightBase', label: 'Light limit: this', unit: 'm' },
  { key: 'lightFactor', label: 'and so many times the clarity', unit: '×' },
  { key: 'clearFrom', label: 'No limit when mixed and clearer than', unit: 'm' },
] as const;

/** This water's own copy of a species profile, and its depth rule: both can be edited, both say where they come from. */
export function ProfileSheet({ onClose }: { onClose: () => void }) {
  const { water, species } = useWaterState();
  const queries = useQueryClient();
  const [profile, setProfile] = useState<Record<string, string>>(() =>
    Object.fromEntries(FIELDS.map((f) => [f.key, String(f.get(species))])),
  );
  const [light, setLight] = useState(species.light);
  const [rule, setRule] = useState<Record<string, string>>(() =>
    Object.fromEntries(Object.entries(readDepthRule(water.rules)).map(([k, v]) => [k, String(v)])),
  );
  const [failed, setFailed] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    const wrong = [
      ...FIELDS.filter((f) => Number.isNaN(readNumber(profile[f.key]))),
      ...RULE.filter((r) => Number.isNaN(readNumber(rule[r.key]))),
    ][0];
    if (wrong) return setFailed(`${wrong.label}: a number is needed`);
    const edited = FIELDS.reduce((s, f) => f.set(s, readNumber(profile[f.key])), { ...species, light });
    try {
      await sendJson('PUT', `/waters/${water.id}/species/${encodeURIComponent(species.name)}`, edited);
      await sendJson('PUT', `/waters/${water.id}/rules`, Object.fromEntries(RULE.map((r) => [r.key, readNumber(rule[r.key])])));
      wantRefit(water.id, species.name);
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      await queries.invalidateQueries({ queryKey: ['fit', water.id] });
      onClose();
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  return (
    <Dialog title={`What ${species.name} need`} onClose={onClose}>
      <p className="mb-2 text-sm text-mute">
        {species.scientific && <i>{species.scientific}. </i>}
        Source: {species.source}.{species.uncertain && ` Uncertain: ${species.uncertain}.`} Your changes hold for {water.name}.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="max-h-[50vh] overflow-y-auto pr-1">
          {FIELDS.map((f) => (
            <NumberRow
              key={f.key}
              label={f.label}
              unit={f.unit}
              value={profile[f.key]}
              onChange={(v) => setProfile({ ...profile, [f.key]: v })}
            />
          ))}
          <label className="grid grid-cols-[1fr_6rem_4rem] items-center gap-3 py-1">
            <span>Light</span>
            <select
              className="select select-sm col-span-2 h-10"
              value={light}
              onChange={(e) => setLight(e.target.value as SpeciesProfile['light'])}
            >
              <option value="shy">shy of it</option>
              <option value="sight">feeds by sight</option>
              <option value="indifferent">does not care</option>
            </select>
          </label>
          <h3 className="mt-3 border-t border-line pt-2 font-bold">The depth rule of {water.name}</h3>
          {RULE.map((r) => (
            <NumberRow key={r.key} label={r.label} unit={r.unit} value={rule[r.key]} onChange={(v) => setRule({ ...rule, [r.key]: v })} />
          ))}
        </div>
        {failed && (
          <p role="alert" className="mt-2 text-sm text-warn">
            {failed}
          </p>
        )}
        <button type="submit" className="btn btn-primary mt-3 h-12 w-full text-lg">
          Keep these
        </button>
      </form>
    </Dialog>
  );
}
