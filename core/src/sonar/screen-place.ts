import { statement, type Statement } from '../statements';
import { heightFromShadow, sideScanDistance } from './beam';
import { forwardPlace } from './read-picture';

export type WorkingCode = 'working.slant' | 'working.under' | 'working.shadow' | 'working.forward' | 'working.below';

/** Where a target lies from the transducer, and how that was worked out, step by step. */
export interface ScreenPlace {
  /** Metres ahead (+) or astern (−), to starboard (+) or port (−). */
  ahead: number;
  starboard: number;
  /** Of the target below the surface, m; null where the picture does not say. */
  depth: number | null;
  workings: Statement<WorkingCode>[];
}

/** The distance over the ground of a slant range, with the step. */
function overGround(range: number, below: number, workings: Statement<WorkingCode>[]): number {
  if (below <= 0) return range;
  const flat = sideScanDistance(range, below);
  workings.push(flat > 0 ? statement('working.slant', { range, below, flat }) : statement('working.under', { range, below }));
  return flat;
}

/**
 * A touch on the Pad: as the screen shows it, which for a side-scan and a forward-facing view is the slant range.
 * @param ahead @param starboard as touched, m @param targetDepth of the target below the surface, m; null where nobody knows
 * @param slant whether the distance touched is a slant range
 */
export function padPlace(
  ahead: number,
  starboard: number,
  targetDepth: number | null,
  transducerDepth: number,
  slant: boolean,
): ScreenPlace {
  const workings: Statement<WorkingCode>[] = [];
  const range = Math.hypot(ahead, starboard);
  const flat = slant && targetDepth !== null && range > 0 ? overGround(range, targetDepth - transducerDepth, workings) : range;
  const share = range > 0 ? flat / range : 0;
  return { ahead: ahead * share, starboard: starboard * share, depth: targetDepth, workings };
}

/** A point of a side-scan picture. */
export interface SideScanPoint {
  side: 'port' | 'starboard';
  /** Slant range, m. */
  range: number;
  /** Depth of the bottom under the boat at that ping, m. */
  bottom: number;
  transducerDepth: number;
  /** Slant range of its shadow, where that lies apart, m. */
  shadow?: number | null;
  /** Depth of the target below the surface where it is known, m; on the bottom where it is not. */
  depth?: number | null;
}

/**
 * Where a point of a side-scan picture lies. A shadow says how high the target hangs, and goes before a depth that was set.
 * Source of the formulas: geometry on a flat bottom, as in `heightFromShadow` and `sideScanDistance`.
 */
export function sideScanPlace({ side, range, bottom, transducerDepth, shadow, depth }: SideScanPoint): ScreenPlace {
  const workings: Statement<WorkingCode>[] = [];
  const height = Math.max(0, bottom - transducerDepth);
  let target = depth ?? bottom;
  if (shadow && shadow > range) {
    const above = heightFromShadow(height, range, shadow);
    target = bottom - above;
    workings.push(statement('working.shadow', { range, height, shadow, above }));
  }
  target = Math.min(bottom, Math.max(transducerDepth, target));
  const flat = overGround(range, target - transducerDepth, workings);
  return { ahead: 0, starboard: side === 'port' ? -flat : flat, depth: target, workings };
}

/** Where a point of a forward-facing picture lies. @param range slant range, m @param down degrees below level @param bearing degrees to starboard of the bow */
export function forwardPoint(range: number, down: number, bearing: number, transducerDepth: number): ScreenPlace {
  const { ahead: flat, depth } = forwardPlace(range, down, transducerDepth);
  const turn = (bearing * Math.PI) / 180;
  return {
    ahead: flat * Math.cos(turn),
    starboard: flat * Math.sin(turn),
    depth,
    workings: [statement('working.forward', { range, down, ahead: flat, depth })],
  };
}
