import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { SCHOOL_NAMES, SCHOOLS, type School } from '@restless-shoal/core/forecast';
import { SCHOOL_SETTINGS, schoolSetting, type SchoolSetting } from '@restless-shoal/core/species';
import { sendJson } from '../../api/client';
import { Dialog } from '../../parts/dialog';
import { NumberRow } from '../../parts/number-row';
import { readNumber } from '../../parts/read-number';
import { wantRefit } from '../../state/refit-wanted';
import { useWaterState } from '../../state/water';

/** What each school holds, as those who follow it would put it. */
const HOLDS: Record<School, string> = {
  depth: 'find the depth most fish hold at, then everything that meets the bottom there',
  comfort: 'warmth, oxygen and light squeeze fish into a layer; fish its edge',
  bottom: 'the hard spot feeds everything; cover comes second',
  structure: 'a point, hump or ledge will hold fish at some time',
  cover: 'go where something physical holds them',
  bait: 'no bait, no fish; the wind brings it',
  quiet: 'unpressured fish bite; leave the bank and the crowd',
  known: 'places everybody fishes are known for a reason',
};

const digits = (value: number): string => String(Number(value.toFixed(3)));

/** The rules of the schools for a species on a water: each can be set otherwise. */
export function SchoolsSheet({ onClose }: { onClose: () => void }) {
  const { water, species } = useWaterState();
  const queries = useQueryClient();
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(SCHOOL_SETTINGS.map((s) => [s.key, digits(schoolSetting(species, s.key))])),
  );
  const [failed, setFailed] = useState<string | null>(null);
  const unusual = ({ key, usual }: SchoolSetting): boolean => readNumber(values[key]) !== usual;
  const wrong = (s: SchoolSetting): boolean => !(readNumber(values[s.key]) >= s.least && readNumber(values[s.key]) <= s.most);
  const save = async (): Promise<void> => {
    const bad = SCHOOL_SETTINGS.find(wrong);
    if (bad) return setFailed(`${SCHOOL_NAMES[bad.school]}, ${bad.label}: a number from ${bad.least} to ${bad.most} is needed`);
    const schools = Object.fromEntries(SCHOOL_SETTINGS.filter(unusual).map(({ key }) => [key, readNumber(values[key])]));
    try {
      await sendJson('PUT', `/waters/${water.id}/species/${encodeURIComponent(species.name)}`, { ...species, schools });
      wantRefit(water.id, species.name);
      await queries.invalidateQueries({ queryKey: ['water', water.id] });
      await queries.invalidateQueries({ queryKey: ['fit', water.id, species.name] });
      onClose();
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  const any = SCHOOL_SETTINGS.some(unusual);
  return (
    <Dialog title={`What the schools say of ${species.name}`} onClose={onClose}>
      <p className="mb-2 text-sm text-mute">
        The forecast starts from these and departs where the log says so. What you set holds for {species.name} on {water.name}. A school
        counts from 0, not at all, to 2. Of log-odds, 0.7 doubles the chance and −0.7 halves it.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="max-h-[50vh] overflow-y-auto pr-1">
          {SCHOOLS.map((school) => (
            <section key={school} className="border-t border-line py-1.5">
              {SCHOOL_SETTINGS.filter((s) => s.school === school).map((s) => (
                <NumberRow
                  key={s.key}
                  label={
                    s.key === `${school}.weight` ? (
                      <>
                        <b>{SCHOOL_NAMES[school]}</b> <span className="block text-sm leading-tight text-mute">{HOLDS[school]}</span>
                      </>
                    ) : (
                      s.label
                    )
                  }
                  name={`${SCHOOL_NAMES[school]}: ${s.label}`}
                  unit={s.key === `${school}.weight` ? 'counts' : s.unit}
                  value={values[s.key]}
                  onChange={(v) => setValues({ ...values, [s.key]: v })}
                  className={unusual(s) ? 'font-bold text-act' : ''}
                />
              ))}
            </section>
          ))}
        </div>
        {failed && (
          <p role="alert" className="mt-2 text-sm text-warn">
            {failed}
          </p>
        )}
        <div className="mt-3 grid grid-cols-2 gap-3">
          <button
            type="button"
            className="btn h-12"
            disabled={!any}
            onClick={() => setValues(Object.fromEntries(SCHOOL_SETTINGS.map((s) => [s.key, digits(s.usual)])))}
          >
            Back to the usual
          </button>
          <button type="submit" className="btn btn-primary h-12 text-lg">
            Keep these
          </button>
        </div>
      </form>
    </Dialog>
  );
}
