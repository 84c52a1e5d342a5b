import { KG_PER_POUND, METRES_PER_FOOT, MeasureError, parseMeasure } from '@restless-shoal/core/units';
import { plain, readerUnits } from '../words';

export type FishMeasure = 'length' | 'mass';

/** In what a fish is measured: centimetres and kilograms, or inches and pounds. */
export const fishUnit = (of: FishMeasure): string =>
  readerUnits().depth === 'm' ? { length: 'cm', mass: 'kg' }[of] : { length: 'in', mass: 'lb' }[of];

/** A typed length or mass in metres or kg, with or without a unit; null where nothing is typed, NaN where it is none. */
export function readFish(of: FishMeasure, typed: string): number | null {
  if (typed.trim() === '') return null;
  try {
    return parseMeasure(typed, of === 'length' ? 'fishLength' : 'mass', fishUnit(of));
  } catch (error) {
    if (error instanceof MeasureError) return NaN;
    throw error;
  }
}

/** Metres or kg as the field shows them, without the unit. */
export function inFishUnit(of: FishMeasure, si: number): string {
  const metric = readerUnits().depth === 'm';
  if (of === 'length') return plain(metric ? si * 100 : (si / METRES_PER_FOOT) * 12, 1);
  return plain(metric ? si : si / KG_PER_POUND, 3);
}
