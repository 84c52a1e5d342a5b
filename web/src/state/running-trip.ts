import { useMemo } from 'react';
import { useTrip, type TripDetail } from '../api/queries';
import { appliedTrip, since } from '../offline/apply';
import { useOutbox } from '../offline/device';
import { useWaterState } from './water';

/** The trip that runs with all that was logged on it, on this device too before any server knows; null while none runs or nothing is known. */
export function useRunningTrip(): { detail: TripDetail | null; failed: Error | null } {
  const { water, running } = useWaterState();
  const id = running?.id ?? null;
  const kept = useOutbox();
  const begun = id !== null && kept.waiting.some((e) => e.path === `/waters/${water.id}/trips/${id}` && e.refused === null);
  const trip = useTrip(begun ? null : id);
  const detail = useMemo((): TripDetail | null => {
    // A trip begun on this device that no server knows yet, or that could not be asked for since; what was marked on it
    // while it is being asked for is shown all the same.
    const marked = [...kept.sent, ...kept.waiting].some((e) => e.path.startsWith(`/trips/${id}/`));
    const base =
      trip.data ??
      (running && (begun || trip.error || marked)
        ? { asOf: 0, trip: running, track: [], stops: [], contacts: [], responses: [], photos: [] }
        : null);
    return base && appliedTrip(base, since(kept, base.asOf));
  }, [trip.data, trip.error, running, id, begun, kept]);
  return { detail, failed: trip.error };
}
