import { useSyncExternalStore } from 'react';

const query = window.matchMedia('(max-width: 767px)');

/** Whether the window is a phone's. */
export const usePhone = (): boolean =>
  useSyncExternalStore(
    (listener) => {
      query.addEventListener('change', listener);
      return () => query.removeEventListener('change', listener);
    },
    () => query.matches,
  );
