import { boolean, number, object } from 'yup';
import { DEFAULT_RIG, type Rig } from '@restless-shoal/core/sonar';
import { useSyncExternalStore } from 'react';

const metres = (least: number, most: number) => number().strict().min(least).max(most).required();
const schema = object({
  forward: metres(-30, 30),
  starboard: metres(-10, 10),
  transducerDepth: metres(0, 20),
  bow: metres(-30, 30),
  corrected: boolean().strict().required(),
});

const listeners = new Set<() => void>();

/** The rig of this device's boat as it was left; the usual one where none, or nonsense, is kept. */
function stored(): Rig {
  try {
    return schema.validateSync(JSON.parse(localStorage.getItem('rig') ?? 'null'));
  } catch {
    return DEFAULT_RIG;
  }
}
let rig = stored();

export function setRig(next: Rig): void {
  rig = next;
  localStorage.setItem('rig', JSON.stringify(next));
  listeners.forEach((listener) => listener());
}

/** How the sonar is mounted on this device's boat. */
export const useRig = (): Rig =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => rig,
  );
