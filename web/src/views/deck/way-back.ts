import type { Conditions } from '@restless-shoal/core/forecast';
import { goBack, schoolMayHaveMoved, type GoBack } from '@restless-shoal/core/passage';
import { fromBoat } from '@restless-shoal/core/sonar';
import type { Boat } from '../../state/use-boat';
import type { DayEntry } from './day-strip';
import type { PadCircle } from './pad';
import type { OpenStop } from './use-stop';

export const keyOf = (entry: DayEntry): string => (entry.kind === 'contact' ? entry.contact.id : entry.stop.id);

const placeOf = (entry: DayEntry): { latitude: number; longitude: number } => (entry.kind === 'contact' ? entry.contact : entry.stop);
const minutesSince = (at: number): number => (Date.now() - at) / 60_000;

/** The way back to something of the day. @param bow who casts, metres forward of the antenna */
export function wayTo(boat: Boat, goal: DayEntry, bow: number, { windFrom, windSpeed, secchi }: Conditions): GoBack {
  const contact = goal.kind === 'contact' ? goal.contact : null;
  return goBack(
    boat,
    bow,
    { ...placeOf(goal), depth: contact?.top_m ?? null, swims: contact ? contact.kind === 'fish' || contact.kind === 'bait' : true },
    minutesSince(goal.at),
    { from: windFrom, speed: windSpeed },
    secchi,
  );
}

/** What is drawn round the boat: what it goes back to, and how far the school of a stop may have moved after a catch. */
export function circlesRound(boat: Boat, goal: DayEntry | null, way: GoBack | null, stop: OpenStop | null): PadCircle[] {
  const out: PadCircle[] = [];
  if (goal && way) {
    const at = fromBoat(boat, placeOf(goal));
    out.push({ ...at, radius: way.holdOff, what: 'hold off' });
    if (way.moved >= 1) out.push({ ...at, radius: way.moved, what: 'may have moved' });
    out.push({ ...fromBoat(boat, way.hold), radius: 0, what: 'hold here' });
  }
  const landed = stop?.responses.filter((r) => r.response === 'landed').at(-1);
  if (stop && landed)
    out.push({
      ...fromBoat(boat, stop.stop),
      radius: schoolMayHaveMoved(minutesSince(Date.parse(landed.time))),
      what: 'school after a catch',
    });
  return out;
}
