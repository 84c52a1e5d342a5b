import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { outbox } from './device';

/** Quiet after the last mark before the water's numbers are asked for anew, ms. */
const DERIVED_AFTER_MS = 4000;
/** Once for all that goes out in a row, ms. */
const TOGETHER_MS = 250;

/**
 * What has reached the server is asked for anew; until it comes, what is on the device stands in its place.
 * @param trip whose records are shown
 */
export function useFreshAfterSending(water: string, trip: string | null): void {
  const queries = useQueryClient();
  useEffect(() => {
    /** The lists of all trips and spots. What is on the device stands in them meanwhile. */
    const lists = (): void => {
      void queries.invalidateQueries({ queryKey: ['trips'] });
      void queries.invalidateQueries({ queryKey: ['spots', water] });
    };
    /** What follows from all that is logged on the water. */
    const derived = (): void => {
      lists();
      ['contacts', 'fit', 'looks', 'logbook'].forEach(
        (of) => void queries.invalidateQueries({ queryKey: [of, water], refetchType: 'all' }),
      );
    };
    const ofLog = (): void =>
      [['log', water], ['outcomes', water], ['waters'], ['running']].forEach((queryKey) => void queries.invalidateQueries({ queryKey }));
    let [records, logged] = [false, false];
    let timer: ReturnType<typeof setTimeout> | undefined;
    let later: ReturnType<typeof setTimeout> | undefined;
    const stop = outbox.onSent(({ path }) => {
      records ||= /\/(contacts|stops|responses)\/|\/records$/.test(path);
      logged ||= path.startsWith('/waters/') || /\/(conditions|records)(\/|$)/.test(path);
      clearTimeout(timer);
      timer = setTimeout(() => {
        for (const queryKey of [
          ['trip', trip],
          ['changes', trip],
        ])
          void queries.invalidateQueries({ queryKey, refetchType: 'active' });
        // Ten years of them are heavy: after a mark they come with the numbers.
        if (!records || logged) lists();
        void queries.invalidateQueries({ queryKey: ['photos', water] });
        void queries.invalidateQueries({ queryKey: ['gear'] });
        if (records) {
          // The whole water's numbers are heavy: after the marking, so that they are not in the way of the next touch.
          clearTimeout(later);
          later = setTimeout(() => {
            later = undefined;
            derived();
          }, DERIVED_AFTER_MS);
        }
        if (logged) ofLog();
        [records, logged] = [false, false];
      }, TOGETHER_MS);
    });
    return () => {
      stop();
      clearTimeout(timer);
      // Also what was sent a moment before another page was opened.
      if (logged) ofLog();
      if (later === undefined && !records && !logged) return;
      clearTimeout(later);
      derived();
    };
  }, [queries, water, trip]);
}
