import { useSyncExternalStore } from 'react';

/** A value that the whole page shares. */
export interface Shared<T> {
  now: () => T;
  set: (next: T) => void;
  /** The value as it is, in a component that is rendered anew when it changes. */
  use: () => T;
}

export function shared<T>(initial: T): Shared<T> {
  const listeners = new Set<() => void>();
  let value = initial;
  const now = (): T => value;
  return {
    now,
    set: (next) => {
      if (Object.is(next, value)) return;
      value = next;
      listeners.forEach((listener) => listener());
    },
    use: () =>
      useSyncExternalStore((listener) => {
        listeners.add(listener);
        return () => listeners.delete(listener);
      }, now),
  };
}
