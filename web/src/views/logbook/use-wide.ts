import { useSyncExternalStore } from 'react';

const wide = matchMedia('(min-width: 1024px)');
const subscribe = (listener: () => void): (() => void) => {
  wide.addEventListener('change', listener);
  return () => wide.removeEventListener('change', listener);
};

/** Whether there is room for columns side by side, as the styles have it. */
export const useWide = (): boolean => useSyncExternalStore(subscribe, () => wide.matches);
