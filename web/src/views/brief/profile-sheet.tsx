import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { readDepthRule, type SpeciesProfile } from '@restless-shoal/core/species';
import { ask } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { NumberRow } from '../../parts/number-row';
import { readNumber } from '../../parts/read-number';
import { wantRefit } from '../../state/refit-wanted';
import { useWaterState } from '../../state/water';
import { brief as msg, term } from '../../words';
import { told } from '../../parts/told';

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
    label: msg('profileSheet.seeksWaterFrom'),
    unit: '°C',
    get: (s) => s.preferred[0],
    set: (s, v) => ({ ...s, preferred: [v, s.preferred[1]] }),
  },
  {
    key: 'preferred-high',
    label: msg('profileSheet.to'),
    unit: '°C',
    get: (s) => s.preferred[1],
    set: (s, v) => ({ ...s, preferred: [s.preferred[0], v] }),
  },
  {
    key: 'upper',
    label: msg('profileSheet.leavesWaterWarmerThan'),
    unit: '°C',
    get: (s) => s.upperAvoidance,
    set: (s, v) => ({ ...s, upperAvoidance: v }),
  },
  {
    key: 'stress',
    label: msg('profileSheet.releasedFishSufferAbove'),
    unit: '°C',
    get: (s) => s.handlingStress,
    set: (s, v) => ({ ...s, handlingStress: v }),
  },
  {
    key: 'oxygen',
    label: msg('profileSheet.needsOxygenOf'),
    unit: 'mg/l',
    get: (s) => s.leastOxygen,
    set: (s, v) => ({ ...s, leastOxygen: v }),
  },
  {
    key: 'wood',
    label: msg('profileSheet.drawnToTimberAnd'),
    unit: '0–1',
    get: (s) => s.drawnTo.wood,
    set: (s, v) => ({ ...s, drawnTo: { ...s.drawnTo, wood: v } }),
  },
  {
    key: 'weed',
    label: msg('profileSheet.drawnToWeed'),
    unit: '0–1',
    get: (s) => s.drawnTo.weed,
    set: (s, v) => ({ ...s, drawnTo: { ...s.drawnTo, weed: v } }),
  },
  {
    key: 'hard',
    label: msg('profileSheet.drawnToHardBottom'),
    unit: '0–1',
    get: (s) => s.drawnTo.hard,
    set: (s, v) => ({ ...s, drawnTo: { ...s.drawnTo, hard: v } }),
  },
];

const RULE = [
  { key: 'lightBase', label: msg('profileSheet.lightLimitThis'), unit: 'm' },
  { key: 'lightFactor', label: msg('profileSheet.andSoManyTimes'), unit: '×' },
  { key: 'clearFrom', label: msg('profileSheet.noLimitWhenMixed'), unit: 'm' },
] as const;

/** This water's own copy of a species profile, and its depth rule: both can be edited, both say where they come from. */
export function ProfileSheet({ onClose }: { onClose: () => void }) {
  const { water, species, sort } = useWaterState();
  const queries = useQueryClient();
  const [profile, setProfile] = useState<Record<string, string>>(() =>
    Object.fromEntries(FIELDS.map((f) => [f.key, String(f.get(species))])),
  );
  const [light, setLight] = useState(species.light);
  const [rule, setRule] = useState<Record<string, string>>(() =>
    Object.fromEntries(Object.entries(readDepthRule(water.rules, water.kind)).map(([k, v]) => [k, String(v)])),
  );
  // A rule of lakes: on other waters it is shown where somebody has set it.
  const ruled = water.rules != null || sort === 'lake';
  const [failed, setFailed] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    const wrong = [
      ...FIELDS.filter((f) => Number.isNaN(readNumber(profile[f.key]))),
      ...RULE.filter((r) => Number.isNaN(readNumber(rule[r.key]))),
    ][0];
    if (wrong) return setFailed(msg('profileSheet.aNumberIsNeeded', { label: wrong.label }));
    const edited = FIELDS.reduce((s, f) => f.set(s, readNumber(profile[f.key])), { ...species, light });
    try {
      await ask('PUT /waters/:water/species/:name', { water: water.id, name: species.name }, { body: edited });
      const [lightBase, lightFactor, clearFrom] = RULE.map((r) => readNumber(rule[r.key]));
      if (ruled) await ask('PUT /waters/:water/rules', { water: water.id }, { body: { lightBase, lightFactor, clearFrom } });
      wantRefit(water.id, species.name);
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      await queries.invalidateQueries({ queryKey: ['fit', water.id] });
      onClose();
    } catch (error) {
      setFailed(told(error));
    }
  };
  return (
    <Dialog title={msg('profileSheet.whatNeed', { name: term(species.name) })} onClose={onClose}>
      <p className="mb-2 text-sm text-mute">
        {species.scientific && <i>{species.scientific}. </i>}
        {msg('profileSheet.sourceYourChangesHold', {
          source: species.source,
          value: species.uncertain ? msg('profileSheet.uncertain', { uncertain: species.uncertain }) : '',
          name: water.name,
        })}
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
            <span>{msg('profileSheet.light')}</span>
            <select
              className="select select-sm col-span-2 h-10"
              value={light}
              onChange={(e) => setLight(e.target.value as SpeciesProfile['light'])}
            >
              <option value="shy">{msg('profileSheet.shyOfIt')}</option>
              <option value="sight">{msg('profileSheet.feedsBySight')}</option>
              <option value="indifferent">{msg('profileSheet.doesNotCare')}</option>
            </select>
          </label>
          <h3 className="mt-3 border-t border-line pt-2 font-bold">{msg('profileSheet.theDepthRuleOf', { name: water.name })}</h3>
          {(ruled ? RULE : []).map((r) => (
            <NumberRow key={r.key} label={r.label} unit={r.unit} value={rule[r.key]} onChange={(v) => setRule({ ...rule, [r.key]: v })} />
          ))}
        </div>
        {failed && (
          <p role="alert" className="mt-2 text-sm text-warn">
            {failed}
          </p>
        )}
        <button type="submit" className="btn btn-primary mt-3 h-12 w-full text-lg">
          {msg('profileSheet.keepThese')}
        </button>
      </form>
    </Dialog>
  );
}
