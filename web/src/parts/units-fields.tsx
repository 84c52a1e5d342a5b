import { UNIT_CHOICES, type UnitSystem } from '@restless-shoal/core/units';
import { setUnits, useUnits } from '../state/units';
import { Segments } from './segments';

const ROWS: [keyof UnitSystem, string][] = [
  ['depth', 'Depths and lengths'],
  ['temperature', 'Temperatures'],
  ['speed', 'Wind and speed'],
];

/** In which units this device is read. What is kept and sent stays SI. */
export function UnitsFields() {
  const units = useUnits();
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
    </div>
  );
}
