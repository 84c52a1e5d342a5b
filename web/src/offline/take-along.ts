import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { contactsQuery, dayPlanQuery, fitQuery, tripQuery } from '../api/queries';

/** How long after the page is there, ms: nothing that is seen first waits for it. */
const LATER = 8000;

/**
 * Reads what the views need on the water although none of them asked yet, so that it is on the device without a signal.
 * @param trip the one that was logged last; null before the first
 */
export function useTakeAlong(water: string, species: string, trip: string | null): void {
  const queries = useQueryClient();
  useEffect(() => {
    const timer = setTimeout(() => {
      void queries.prefetchQuery(fitQuery(water, species));
      void queries.prefetchQuery(contactsQuery(water));
      void queries.prefetchQuery(dayPlanQuery(water));
      if (trip) void queries.prefetchQuery(tripQuery(trip));
    }, LATER);
    return () => clearTimeout(timer);
  }, [queries, water, species, trip]);
}
