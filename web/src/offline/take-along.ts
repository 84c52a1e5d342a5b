import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { contactsQuery, fitQuery } from '../api/queries';

/** How long after the page is there, ms: nothing that is seen first waits for it. */
const LATER = 8000;

/** Reads what the views need on the water although none of them asked yet, so that it is on the device without a signal. */
export function useTakeAlong(water: string, species: string): void {
  const queries = useQueryClient();
  useEffect(() => {
    const timer = setTimeout(() => {
      void queries.prefetchQuery(fitQuery(water, species));
      void queries.prefetchQuery(contactsQuery(water));
    }, LATER);
    return () => clearTimeout(timer);
  }, [queries, water, species]);
}
