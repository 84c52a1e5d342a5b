import { useMemo } from 'react';
import { useLoggedTrips, type LoggedTrip } from '../../api/queries';
import { appliedTrips, since } from '../../offline/apply';
import { useOutbox } from '../../offline/device';

/** All trips, the last first, as they will be once everything that waits on this device has been sent. */
export function useTrips(): { trips: LoggedTrip[] | null; failed: Error | null } {
  const { data, error } = useLoggedTrips();
  const kept = useOutbox();
  const trips = useMemo(() => (data ? appliedTrips(data.list, since(kept, data.asOf)) : null), [data, kept]);
  return { trips, failed: error };
}
