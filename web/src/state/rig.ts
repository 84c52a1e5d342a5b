import { boolean, number, object } from 'yup';
import { DEFAULT_RIG, type Rig } from '@restless-shoal/core/sonar';
import { shared } from './shared';

const metres = (min: number, max: number) => number().strict().min(min).max(max).required();
const schema = object({
  forward: metres(-30, 30),
  starboard: metres(-10, 10),
  transducerDepth: metres(0, 20),
  bow: metres(-30, 30),
  // Rigs that were set before it could be told have none.
  delay: number().strict().min(0).max(20).default(0),
  corrected: boolean().strict().required(),
  gain: number().strict().nullable().default(null),
  leastEcho: number().strict().nullable().default(null),
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

/** How the rig was set before, and until when, ms: marks were placed by the one of their time. The oldest first. */
interface Before {
  until: number;
  rig: Rig;
}
const BEFORE = 'rig before';
/** So many are remembered; what was set for less than this while somebody typed is not one of them, ms. */
const [MOST, TYPING_MS] = [50, 60_000];

function before(): Before[] {
  try {
    const kept = JSON.parse(localStorage.getItem(BEFORE) ?? '[]') as Before[];
    return kept.map(({ until, rig }) => ({ until: Number(until), rig: schema.validateSync(rig) }));
  } catch {
    return [];
  }
}

/** The rig as it was set on this device at a time. @param at ms */
export const rigAt = (at: number): Rig => before().find((b) => at < b.until)?.rig ?? stored();

export function setRig(next: Rig): void {
  const [kept, now] = [before(), Date.now()];
  const typing = kept.length > 0 && now - kept.at(-1)!.until < TYPING_MS;
  if (!typing) localStorage.setItem(BEFORE, JSON.stringify([...kept, { until: now, rig: stored() }].slice(-MOST)));
  localStorage.setItem('rig', JSON.stringify(next));
  rig.set(next);
}

/** How the sonar is mounted on this device's boat. */
export const useRig = rig.use;
