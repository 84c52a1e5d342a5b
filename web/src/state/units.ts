import { metric, UNIT_CHOICES, type UnitSystem } from '@restless-shoal/core/units';
import { readIn } from '../words';
import { shared } from './shared';

/** What this device keeps, SI for all that is none of the choices. */
function kept(): UnitSystem {
  let said: Partial<Record<keyof UnitSystem, string>> = {};
  try {
    said = JSON.parse(localStorage.getItem('units') ?? '{}') ?? {};
  } catch {
    // Not ours, or cut off: SI.
  }
  const of = <K extends keyof UnitSystem>(kind: K): UnitSystem[K] => UNIT_CHOICES[kind].find((u) => u === said[kind]) ?? metric[kind];
  return { depth: of('depth'), temperature: of('temperature'), speed: of('speed') };
}
const units = shared(kept());
readIn(units.now());

export function setUnits(change: Partial<UnitSystem>): void {
  const next = { ...units.now(), ...change };
  localStorage.setItem('units', JSON.stringify(next));
  readIn(next);
  units.set(next);
}

/** The units that this device is read in. Inside, everything stays SI. */
export const useUnits = units.use;
