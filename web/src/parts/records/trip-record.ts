import { columnsOf } from '@restless-shoal/core/logbook';
import type { TripRow } from '../../api/queries';

/** Records of a trip that are written one by one. */
export type TripRecord = 'contacts' | 'stops' | 'responses' | 'conditions' | 'photos';

/** A record as it is sent, without what the server added. */
export const asSent = <R extends object>(record: TripRecord, row: R): Omit<R, 'id' | 'trip' | 'trip_id' | 'version'> => {
  const own = new Set(columnsOf(record));
  return Object.fromEntries(Object.entries(row).filter(([name, value]) => own.has(name) && value !== undefined)) as R;
};

/** A trip as it is sent: all that was ever said of it goes along, or it would be gone. */
export const tripAsSent = ({ trip, start, end, purpose, goal, crew, boat, weigh_in, bag, least_length_m, notes }: TripRow) => ({
  trip,
  start,
  end,
  purpose,
  goal,
  crew,
  boat,
  weigh_in,
  bag,
  least_length_m,
  notes,
});
