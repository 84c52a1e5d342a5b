import { useSyncExternalStore } from 'react';

const listeners = new Set<() => void>();
let refused = false;

/** The server answered whether whoever asks is signed in. */
export function noteSignedIn(signedIn: boolean): void {
  if (refused === !signedIn) return;
  refused = !signedIn;
  listeners.forEach((listener) => listener());
}

/** Whether the server wants a password first. */
export const useRefused = (): boolean =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => refused,
  );
