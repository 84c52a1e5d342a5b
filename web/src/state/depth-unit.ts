import { useSyncExternalStore } from 'react';
import type { DepthUnit } from '../parts/format';

const listeners = new Set<() => void>();
let unit: DepthUnit = localStorage.getItem('depth-unit') === 'ft' ? 'ft' : 'm';

export function setDepthUnit(next: DepthUnit): void {
  unit = next;
  localStorage.setItem('depth-unit', next);
  listeners.forEach((listener) => listener());
}

/** The unit in which the chart is read. */
export const useDepthUnit = (): DepthUnit =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => unit,
  );
