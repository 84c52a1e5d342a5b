import { boolean, number, object } from 'yup';
import { DEFAULT_RIG, type Rig } from '@restless-shoal/core/sonar';
import { shared } from './shared';

const metres = (least: number, most: number) => number().strict().min(least).max(most).required();
const schema = object({
  forward: metres(-30, 30),
  starboard: metres(-10, 10),
  transducerDepth: metres(0, 20),
  bow: metres(-30, 30),
  corrected: boolean().strict().required(),
});

/** The rig of this device's boat as it was left; the usual one where none, or nonsense, is kept. */
function stored(): Rig {
  try {
    return schema.validateSync(JSON.parse(localStorage.getItem('rig') ?? 'null'));
  } catch {
    return DEFAULT_RIG;
  }
}
const rig = shared(stored());

export function setRig(next: Rig): void {
  localStorage.setItem('rig', JSON.stringify(next));
  rig.set(next);
}

/** How the sonar is mounted on this device's boat. */
export const useRig = rig.use;
