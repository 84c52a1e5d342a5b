import { bearing, destination, distance, type LatLon } from '../geo';
import { mayHaveMoved } from '../logbook';

/**
 * How near is too near to fish without putting them down, m: far in shallow clear water, hardly at all in deep murky water.
 * A judgement, 30 m at the surface, falling to 1/e of that where little light reaches (2 m + Secchi depth), 5 m at least.
 * @param depth of the fish, m @param secchi m
 */
export const holdOff = (depth: number, secchi: number): number => Math.max(5, 30 * Math.exp(-Math.max(0, depth) / (2 + secchi)));

/** Wind too weak to hold against, m/s. */
const CALM = 0.5;
/** A cast goes so far past what it is meant for, m. */
const PAST = 3;
/** Nearer than this nobody holds, however murky, m. */
const NEAREST = 10;

export interface GoBack {
  /** From the person who casts. */
  metres: number;
  /** Degrees true. */
  bearing: number;
  /** Degrees to starboard (+) or port (−) of the bow. */
  turn: number;
  /** How far it may have moved since, m; 0 for what stands on the bottom. */
  moved: number;
  /** Stay this far off, m. */
  holdOff: number;
  /** Where the antenna is when the boat holds: downwind of the mark, the bow towards it. */
  hold: LatLon;
  /** How far to cast from there to land past it, m. */
  cast: number;
}

/**
 * The way back to something seen.
 * @param boat antenna position and course @param bow the person casting, metres forward of the antenna
 * @param mark what was seen: place, depth of it, m, and whether it swims @param minutes since then
 */
export function goBack(
  boat: { position: LatLon; course: number },
  bow: number,
  mark: LatLon & { depth: number | null; swims: boolean },
  minutes: number,
  wind: { from: number; speed: number },
  secchi: number,
): GoBack {
  const caster = bow === 0 ? boat.position : destination(boat.position, boat.course, bow);
  const metres = distance(caster, mark);
  const towards = metres > 0.01 ? bearing(caster, mark) : boat.course;
  const off = holdOff(mark.depth ?? 0, secchi);
  const apart = Math.max(NEAREST, off);
  // Come in against the wind, which then holds the boat off; in a calm on from where it is.
  const side = wind.speed >= CALM ? wind.from + 180 : towards + 180;
  return {
    metres,
    bearing: towards,
    turn: ((towards - boat.course + 540) % 360) - 180,
    moved: mark.swims ? mayHaveMoved(minutes) : 0,
    holdOff: off,
    hold: destination(mark, side, apart + bow),
    cast: apart + PAST,
  };
}
