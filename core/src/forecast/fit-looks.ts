import type { CellTable } from '../chart';
import { cellKey } from '../geo';
import type { Look } from '../logbook';
import { dayFor, type Day, type WaterFrame } from './conditions';
import { conditionsFromLog, type TimedReading } from './conditions-from-log';
import type { DatedProfile } from '../lake';
import type { FitLook } from './look-likelihood';

/** Whether a look saw what its log calls a species. */
export const sawSpecies = (look: Look, isSpecies: (name: string) => boolean): boolean =>
  look.targets.some((t) => t.kind === 'fish' && t.species != null && isSpecies(t.species));

const HOUR = 3_600_000;
/** A reading of the same outing may have been made after the look. */
const SAME_OUTING = 12 * HOUR;

/**
 * Gives each look its cell of the chart and the day it was made on, from the log's readings and profiles.
 * Looks in one hour share a day. Looks outside the chart are left out.
 * @param trips the looks of each trip, in the order of the trips
 */
export function looksForFit(
  trips: Look[][],
  cells: CellTable,
  frame: WaterFrame,
  readings: TimedReading[],
  profiles: DatedProfile[],
): FitLook[] {
  const indexOf = new Map(Array.from({ length: cells.count }, (_, i) => [cellKey(cells.column[i], cells.row[i]), i]));
  const days = new Map<number, Day>();
  const out: FitLook[] = [];
  trips.forEach((looks, trip) => {
    for (const look of looks) {
      const cell = indexOf.get(cellKey(look.column, look.row));
      if (cell === undefined || Number.isNaN(cells.depth[cell])) continue;
      const hour = Math.floor(look.from / HOUR);
      let day = days.get(hour);
      if (!day) {
        const at = new Date((hour + 0.5) * HOUR);
        day = dayFor(conditionsFromLog(readings, at, frame, SAME_OUTING).conditions, frame, profiles, new Date(at.getTime() + SAME_OUTING));
        days.set(hour, day);
      }
      out.push({ look, cell, trip, day });
    }
  });
  return out;
}
