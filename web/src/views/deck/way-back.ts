import type { Conditions } from '@restless-shoal/core/forecast';
import { schoolMayHaveMoved } from '@restless-shoal/core/logbook';
import { goBack, type GoBack } from '@restless-shoal/core/passage';
import { fromBoat } from '@restless-shoal/core/sonar';
import type { Boat } from '../../state/use-boat';
import type { PlanPlace } from '../../api/queries';
import type { DayEntry } from '../../parts/records/day-entries';
import type { PadCircle } from './pad';
import type { OpenStop } from './use-stop';

/** What the boat can go to: something of the day, or a place on the plan. */
export type Goal = DayEntry | { kind: 'plan'; place: PlanPlace };

export const keyOf = (goal: Goal): string =>
  goal.kind === 'contact' ? goal.contact.id : goal.kind === 'stop' ? goal.stop.id : goal.place.id;

const placeOf = (goal: Goal): { latitude: number; longitude: number } =>
  goal.kind === 'contact' ? goal.contact : goal.kind === 'stop' ? goal.stop : goal.place;
const minutesSince = (at: number): number => (Date.now() - at) / 60_000;

/** The way to something of the day or of the plan. @param bow who casts, metres forward of the antenna */
export function wayTo(boat: Boat, goal: Goal, bow: number, { windFrom, windSpeed, secchi }: Conditions): GoBack {
  const contact = goal.kind === 'contact' ? goal.contact : null;
  return goBack(
    boat,
    bow,
    {
      ...placeOf(goal),
      depth: contact?.top_m ?? null,
      swims: contact ? contact.kind === 'fish' || contact.kind === 'bait' : goal.kind === 'stop',
    },
    goal.kind === 'plan' ? 0 : minutesSince(goal.at),
    { from: windFrom, speed: windSpeed },
    secchi,
  );
}

/** What is drawn round the boat: what it goes back to, and how far the school of a stop may have moved after a catch. */
export function circlesRound(boat: Boat, goal: Goal | null, way: GoBack | null, stop: OpenStop | null): PadCircle[] {
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
