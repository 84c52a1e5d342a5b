import { newId } from '@restless-shoal/core/logbook';
import { deckNow } from '../api/clock';
import type { TripRow } from '../api/queries';
import { keepAndSend } from '../offline/device';
import { dayKey } from '../parts/format';

/** Begins a trip on a water, named by the day as it is there: an evening in the west is no next morning. */
export async function beginTrip(
  water: { id: string; time_zone: string | null },
  trips: TripRow[],
  { purpose, goal, crew = null }: Pick<TripRow, 'purpose' | 'goal'> & Partial<Pick<TripRow, 'crew'>>,
): Promise<void> {
  const now = new Date(deckNow());
  const name = dayKey(now, water.time_zone);
  const taken = trips.filter((t) => t.trip === name || t.trip.startsWith(`${name} `)).length;
  await keepAndSend(
    'PUT /waters/:water/trips/:trip',
    { water: water.id, trip: newId(now.getTime()) },
    { trip: taken ? `${name} ${taken + 1}` : name, start: now.toISOString(), end: null, purpose, goal, crew },
  );
}
