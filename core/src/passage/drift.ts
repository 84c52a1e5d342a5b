import type { Point } from '../geo';

const radians = (degrees: number): number => (degrees * Math.PI) / 180;
const degrees = (x: number, y: number): number => ((Math.atan2(x, y) * 180) / Math.PI + 360) % 360;

/** A boat adrift goes at so much of the wind's speed: a small open boat without a drift sock; a judgement, between 0.02 and 0.06. */
export const WINDAGE = 0.035;

export interface WindAndCurrent {
  /** Where the wind comes from, degrees true; m/s. */
  windFrom: number;
  windSpeed: number;
  /** Where the water goes to, degrees true; m/s. */
  currentTo: number;
  currentSpeed: number;
}

export interface Drift {
  /** Degrees true, m/s. */
  to: number;
  speed: number;
}

/** How a boat drifts: with the water, and before the wind. @param windage share of the wind's speed */
export function driftOf({ windFrom, windSpeed, currentTo, currentSpeed }: WindAndCurrent, windage = WINDAGE): Drift {
  const blown = windSpeed * windage;
  const x = -blown * Math.sin(radians(windFrom)) + currentSpeed * Math.sin(radians(currentTo));
  const y = -blown * Math.cos(radians(windFrom)) + currentSpeed * Math.cos(radians(currentTo));
  const speed = Math.hypot(x, y);
  return { to: speed > 1e-9 ? degrees(x, y) : 0, speed };
}

/** A drift planned over a mark. */
export interface DriftOver {
  /** Where to begin and where it ends, m. */
  from: Point;
  to: Point;
  drift: Drift;
  /** Minutes from the beginning until the bow is over the mark, and within reach of it. */
  until: number;
  over: number;
}

/**
 * Where to stop the boat so that wind and stream together carry it over a mark.
 * @param lead so far up-drift of the mark's edge it begins, m: the line has to be down by then @param radius of the mark, m: a
 *   wreck's half length @returns null while nothing moves the boat
 */
export function driftOver(mark: Point, forces: WindAndCurrent, radius: number, lead: number): DriftOver | null {
  const drift = driftOf(forces);
  if (drift.speed < 0.02) return null;
  const [ux, uy] = [Math.sin(radians(drift.to)), Math.cos(radians(drift.to))];
  const at = (s: number): Point => [mark[0] + ux * s, mark[1] + uy * s];
  return {
    from: at(-radius - lead),
    to: at(radius + lead / 2),
    drift,
    until: (radius + lead) / drift.speed / 60,
    over: (2 * radius) / drift.speed / 60,
  };
}

/** How far down-stream of the boat a sinking lure comes to the depth, and after how long: it goes with the stream, the boat with stream and wind. */
export function sinksAside(
  depth: number,
  sinkRate: number,
  forces: WindAndCurrent,
  anchored: boolean,
): { metres: number; seconds: number } {
  const seconds = depth / sinkRate;
  const boat = anchored ? { to: 0, speed: 0 } : driftOf(forces);
  const x = forces.currentSpeed * Math.sin(radians(forces.currentTo)) - boat.speed * Math.sin(radians(boat.to));
  const y = forces.currentSpeed * Math.cos(radians(forces.currentTo)) - boat.speed * Math.cos(radians(boat.to));
  return { metres: Math.hypot(x, y) * seconds, seconds };
}

export interface DriftLine {
  /** Where to begin and where it ends, m. */
  from: Point;
  to: Point;
  drift: Drift;
  /** Nearest that the boat comes to the target, m. */
  passes: number;
  /** Minutes from the beginning to the end, and of them within a cast. */
  minutes: number;
  inReach: number;
}

/**
 * A drift past a target at a distance, from a cast before it to a cast behind it, on the side that is asked for.
 * @param off distance at which it passes, m; 0: over it @param side 1: the target to starboard of the drift, −1: to port @param cast m
 * @returns null while nothing moves the boat
 */
export function driftLine(target: Point, forces: WindAndCurrent, off: number, side: 1 | -1, cast: number): DriftLine | null {
  const drift = driftOf(forces);
  if (drift.speed < 0.02) return null;
  const [ux, uy] = [Math.sin(radians(drift.to)), Math.cos(radians(drift.to))];
  // To port of the drift is (−uy, ux): the target to starboard lies on the other side.
  const [cx, cy] = [target[0] - uy * off * side, target[1] + ux * off * side];
  const half = Math.sqrt(Math.max(0, cast * cast - off * off));
  const lead = half + 10;
  const at = (s: number): Point => [cx + ux * s, cy + uy * s];
  return {
    from: at(-lead),
    to: at(lead),
    drift,
    passes: off,
    minutes: (2 * lead) / drift.speed / 60,
    inReach: (2 * half) / drift.speed / 60,
  };
}
