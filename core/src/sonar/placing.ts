import { bearing, destination, distance, type LatLon } from '../geo';

/** Where antenna and transducer sit on the boat, metres forward (+) and to starboard (+) of the antenna. */
export interface RigOffset {
  forward: number;
  starboard: number;
}

/** The boat when a mark is made. Course in degrees true, speed in m/s. */
export interface BoatState {
  position: LatLon;
  course: number;
  speed: number;
}

/**
 * Position of a target touched on the Pad.
 * @param boat antenna position, course and speed at the time of the touch
 * @param ahead metres ahead (+) or astern (−) of the transducer @param starboard metres to starboard (+) or port (−)
 * @param offset transducer relative to the antenna @param delay seconds between the echo and the touch
 */
export function placeTarget(
  boat: BoatState,
  ahead: number,
  starboard: number,
  offset: RigOffset = { forward: 0, starboard: 0 },
  delay = 0,
): LatLon {
  const along = offset.forward + ahead - delay * boat.speed;
  const across = offset.starboard + starboard;
  const reach = Math.hypot(along, across);
  if (reach < 1e-6) return boat.position;
  const angle = (Math.atan2(across, along) * 180) / Math.PI;
  return destination(boat.position, boat.course + angle, reach);
}

/** Where a boat is some seconds after it was seen, on by its course and speed. */
export const carriedOn = ({ position, course, speed }: BoatState, seconds: number): LatLon =>
  speed * seconds === 0 ? position : destination(position, course, speed * seconds);

/** Where a place lies from the boat: metres ahead (+) or astern (−), to starboard (+) or port (−); the way back of `placeTarget`. */
export function fromBoat(
  { position, course }: Pick<BoatState, 'position' | 'course'>,
  place: LatLon,
): { ahead: number; starboard: number } {
  const far = distance(position, place);
  const turn = ((bearing(position, place) - course) * Math.PI) / 180;
  return { ahead: far * Math.cos(turn), starboard: far * Math.sin(turn) };
}

/** A boat as it was seen at a time, ms. */
export interface BoatFix extends BoatState {
  at: number;
}

/** How long a boat is taken to go on as it was last seen, ms. */
const HOLDS_MS = 2000;
/** Fixes farther apart than this say nothing of what was between, ms. */
const GAP_MS = 15_000;

/**
 * Where a boat was at a time: between the fixes round it, or on from the last for two seconds.
 * @param fixes in order of time @returns null where no fix is near enough to say
 */
export function boatAt(fixes: BoatFix[], at: number): BoatState | null {
  let [low, high] = [0, fixes.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (fixes[middle].at <= at) low = middle + 1;
    else high = middle;
  }
  const [before, after] = [fixes[low - 1], fixes[low]] as (BoatFix | undefined)[];
  if (!before) return null;
  if (!after) return at - before.at <= HOLDS_MS ? { ...before, position: carriedOn(before, (at - before.at) / 1000) } : null;
  const span = after.at - before.at;
  if (span > GAP_MS) return null;
  const share = span > 0 ? (at - before.at) / span : 0;
  const turn = ((after.course - before.course + 540) % 360) - 180;
  const east = ((after.position.longitude - before.position.longitude + 540) % 360) - 180;
  return {
    position: {
      latitude: before.position.latitude + share * (after.position.latitude - before.position.latitude),
      longitude: before.position.longitude + share * east,
    },
    course: (before.course + share * turn + 360) % 360,
    speed: before.speed + share * (after.speed - before.speed),
  };
}
