import { useSyncExternalStore } from 'react';

/** Whether the server answers, and from when what is shown is if it does not. */
export interface Reach {
  server: boolean;
  /** When the oldest of what the device gave instead was kept, ms. */
  asOf: number | null;
}

let state: Reach = { server: true, asOf: null };
const listeners = new Set<() => void>();

function show(next: Reach): void {
  if (next.server === state.server && next.asOf === state.asOf) return;
  state = next;
  listeners.forEach((listener) => listener());
}

/** The server has answered. */
export const reached = (): void => show({ server: true, asOf: null });
/** The device answered in its place, or nobody. @param keptAt when the answer was kept, ms */
export const missed = (keptAt: number | null = null): void =>
  show({ server: false, asOf: keptAt === null ? state.asOf : Math.min(keptAt, state.asOf ?? keptAt) });

export const useReach = (): Reach =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => state,
  );
