import type { LoggedTrip } from '../../api/queries';
import { dayOf } from './trip-filters';

/** Trips by year and month; the years last first, the months as they come in a year. */
export function bySeason(trips: LoggedTrip[]): {
  years: string[];
  months: string[];
  of: (year: string | null, month: string | null) => LoggedTrip[];
} {
  const placed = trips.map((trip) => ({ trip, year: dayOf(trip).slice(0, 4), month: dayOf(trip).slice(5, 7) }));
  return {
    years: [...new Set(placed.map((p) => p.year))].sort().reverse(),
    months: [...new Set(placed.map((p) => p.month))].sort(),
    of: (year, month) =>
      placed.filter((p) => (year === null || p.year === year) && (month === null || p.month === month)).map((p) => p.trip),
  };
}
