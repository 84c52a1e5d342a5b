import { bearing, distance, type LatLon } from '../geo';
import type { OffsetPass } from './mount-offsets';
import { boatAt, placeTarget, type BoatFix, type BoatState } from './placing';
import type { Rig } from './rig';

/** Something at a place and a time. */
interface Placed extends LatLon {
  time: string;
}

/** A mark of an object that was passed, with the boat as it then was. */
export interface Passed<M extends Placed & { kind: string }> {
  mark: M;
  boat: BoatState;
}

/** Marks of one object lie within this of each other, m, and are this far apart in time, ms. */
const TOGETHER = 25;
const APART_MS = 15_000;
const FEWEST = 3;
/** A boat slower than this goes nowhere, m/s. */
const MOVING = 0.2;

/** The boat along a track: course and speed from the fixes before and after. */
export function boatAlong(track: readonly Placed[]): BoatFix[] {
  const fixes = track.map((f) => ({ at: Date.parse(f.time), position: { latitude: f.latitude, longitude: f.longitude } })).sort((a, b) => a.at - b.at); // prettier-ignore
  return fixes.flatMap((fix, k) => {
    const [before, after] = [fixes[Math.max(0, k - 1)], fixes[Math.min(fixes.length - 1, k + 1)]];
    const seconds = (after.at - before.at) / 1000;
    if (seconds <= 0) return [];
    return [{ ...fix, course: bearing(before.position, after.position), speed: distance(before.position, after.position) / seconds }];
  });
}

/** Marks of a trip that may be of one object, passed several times: those that lie together, each from a pass of its own. */
export function passedObjects<M extends Placed & { kind: string }>({
  contacts,
  track,
}: {
  contacts: readonly M[];
  track: readonly Placed[];
}): Passed<M>[][] {
  const along = boatAlong(track);
  const left = [...contacts].sort((a, b) => a.time.localeCompare(b.time));
  const groups: Passed<M>[][] = [];
  while (left.length) {
    const first = left.shift()!;
    const group = [first];
    for (const other of [...left]) {
      const near = other.kind === first.kind && distance(first, other) <= TOGETHER;
      if (!near || Date.parse(other.time) - Date.parse(group.at(-1)!.time) < APART_MS) continue;
      group.push(other);
      left.splice(left.indexOf(other), 1);
    }
    const passed = group.flatMap((mark) => {
      const boat = boatAt(along, Date.parse(mark.time));
      return boat && boat.speed > MOVING ? [{ mark, boat }] : [];
    });
    if (passed.length >= FEWEST) groups.push(passed);
  }
  return groups;
}

/** The marks as if antenna and transducer were one and the picture of now: what the rig made of them is taken back. @param rigAt as it was set at a time, ms */
export function passesOf(passed: readonly Passed<Placed & { kind: string }>[], rigAt: (at: number) => Rig): OffsetPass[] {
  // Courses are from true north: east and north are those of the place, not of a grid.
  const from = passed[0].mark;
  return passed.map(({ mark, boat }) => {
    const rig = rigAt(Date.parse(mark.time));
    const at: LatLon = placeTarget({ ...boat, position: mark }, 0, 0, { forward: -rig.forward, starboard: -rig.starboard }, -rig.delay);
    const [far, way] = [distance(from, at), (bearing(from, at) * Math.PI) / 180];
    return { x: far * Math.sin(way), y: far * Math.cos(way), course: boat.course, speed: boat.speed };
  });
}

/** How a simulated boat's rig is mounted: what its passes should tell. */
export interface SimulatedMount {
  forward: number;
  starboard: number;
  /** s */
  delay: number;
}

/** Courses and speeds of a simulated boat's passes, and how exactly each is marked, m. */
const WAYS: readonly (readonly [course: number, speed: number])[] = [[30, 1], [210, 1], [30, 3], [210, 3], [120, 1.5], [300, 1.5]]; // prettier-ignore
const MARKED_TO = 0.3;

/** Passes by one object as a simulated boat with such a rig would mark them, for practice. @param random 0–1 */
export function simulatedPasses({ forward, starboard, delay }: SimulatedMount, random: () => number): OffsetPass[] {
  const noise = (): number => MARKED_TO * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return WAYS.map(([course, speed]) => {
    const [east, north] = [Math.sin((course * Math.PI) / 180), Math.cos((course * Math.PI) / 180)];
    // The object at the middle is marked at −a·u − b·n + v·t·u.
    const along = -forward + speed * delay;
    return { course, speed, x: along * east - starboard * north + noise(), y: along * north + starboard * east + noise() };
  });
}
