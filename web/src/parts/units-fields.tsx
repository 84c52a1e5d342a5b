import { UNIT_CHOICES, type UnitSystem } from '@restless-shoal/core/units';
import { setLanguage, useLanguage } from '../state/language';
import { setUnits, useUnits } from '../state/units';
import { Segments } from './segments';
import { LANGUAGES, parts as msg, type Language } from '../words';

const ROWS: [keyof UnitSystem, string][] = [
  ['depth', msg('unitsFields.depthsAndLengths')],
  ['temperature', msg('unitsFields.temperatures')],
  ['speed', msg('unitsFields.windAndSpeed')],
];

/** In which units this device is read. What is kept and sent stays SI. */
export function UnitsFields() {
  const units = useUnits();
  const language = useLanguage();
  return (
    <div className="grid gap-3">
      {ROWS.map(([kind, label]) => (
        <div key={kind} className="grid grid-cols-[9.5rem_1fr] items-center gap-3 max-md:grid-cols-1 max-md:gap-1">
          <span className="font-semibold">{label}</span>
          <Segments
            label={label}
            value={units[kind]}
            options={UNIT_CHOICES[kind].map((u) => [u, u] as const)}
            onChange={(unit) => setUnits({ [kind]: unit })}
          />
        </div>
      ))}
      <div className="grid grid-cols-[9.5rem_1fr] items-center gap-3 max-md:grid-cols-1 max-md:gap-1">
        <span className="font-semibold">{msg('unitsFields.language')}</span>
        <Segments
          label={msg('unitsFields.language')}
          value={language}
          options={(Object.entries(LANGUAGES) as [Language, string][]).map(([tag, name]) => [tag, name] as const)}
          onChange={setLanguage}
        />
      </div>
    </div>
  );
}
