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
