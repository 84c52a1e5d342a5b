import { useSyncExternalStore } from 'react';

const NARROW = window.matchMedia('(max-width: 767px)');
const onNarrow = (listener: () => void): (() => void) => {
  NARROW.addEventListener('change', listener);
  return () => NARROW.removeEventListener('change', listener);
};

/** Whether the window is as narrow as a phone held upright. */
export const useNarrow = (): boolean => useSyncExternalStore(onNarrow, () => NARROW.matches);
