import { heightFromShadow, sideScanDistance } from './beam';
import { forwardPlace } from './read-picture';

/** Where a target lies from the transducer, and how that was worked out, step by step. */
export interface ScreenPlace {
  /** Metres ahead (+) or astern (−), to starboard (+) or port (−). */
  ahead: number;
  starboard: number;
  /** Of the target below the surface, m; null where the picture does not say. */
  depth: number | null;
  workings: string[];
}

const m = (value: number): string => `${value.toFixed(1)} m`;

/** The distance over the ground of a slant range, with the step in words. */
function overGround(range: number, below: number, workings: string[]): number {
  if (below <= 0) return range;
  const flat = sideScanDistance(range, below);
  workings.push(
    flat > 0
      ? `${m(range)} by slant, ${m(below)} below the transducer: √(${range.toFixed(1)}² − ${below.toFixed(1)}²) = ${m(flat)} over the ground`
      : `${m(range)} by slant does not reach ${m(below)} down: under the boat`,
  );
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
  const workings: string[] = [];
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
  const workings: string[] = [];
  const height = Math.max(0, bottom - transducerDepth);
  let target = depth ?? bottom;
  if (shadow && shadow > range) {
    const above = heightFromShadow(height, range, shadow);
    target = bottom - above;
    workings.push(`shadow at ${m(shadow)}, ${m(height)} under the transducer: ${height.toFixed(1)}·(1 − ${range.toFixed(1)}/${shadow.toFixed(1)}) = ${m(above)} off the bottom`); // prettier-ignore
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
    workings: [`${m(range)} at ${down.toFixed(0)}° down: ${m(flat)} ahead, ${m(depth)} deep`],
  };
}
