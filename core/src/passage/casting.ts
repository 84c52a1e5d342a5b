/** Where and how long to cast so that a lure comes to the fish at their depth. Metres, seconds. */
export interface CastPlan {
  /** Seconds until it is at their depth. */
  sinks: number;
  /** How far the cast goes, from the person casting. */
  cast: number;
  /** How far beyond the fish it lands. */
  beyond: number;
  /** What the boat drifts meanwhile. */
  drifts: number;
  /** Whether the line would have to be longer than anybody casts. */
  tooFar: boolean;
}

/** Sinking faster than this on a line that is held, a lure swings back under the rod; slower ones are best let fall on a slack line, m/s. */
export const FAST_SINK = 0.6;
/** A fast one lands so far beyond the fish, m, and then comes through them; a slow one is dropped just past them. */
const PAST = { fast: 6, slow: 2 };
/** Farther than this few cast, m. */
export const FARTHEST_CAST = 45;

/**
 * The cast for a lure: it sinks at its rate to the depth of the fish; on a line held tight it swings toward the rod meanwhile, by
 * √(c² + d²) = c + s: a cast has to be longer by that swing. A slow one sinks on a slack line straight down, while the boat drifts.
 * @param away metres from the person casting to the fish, over the water @param depth of the fish, m @param sink m/s
 * @param closing speed at which the boat drifts toward them (+) or away (−), m/s
 */
export function castFor(away: number, depth: number, sink: number, closing: number): CastPlan {
  const sinks = sink > 0 ? depth / sink : Infinity;
  const fast = sink >= FAST_SINK;
  // On a tight line of length c the lure ends at a horizontal distance of √(c² − d²): the cast for that to be `away` plus a bit.
  const reach = away + (fast ? PAST.fast : PAST.slow);
  const cast = fast ? Math.hypot(reach, depth) : reach;
  const drifts = Number.isFinite(sinks) ? closing * sinks : 0;
  const length = Math.max(1, cast + (fast ? 0 : Math.min(0, drifts) * -1));
  return { sinks, cast: length, beyond: length - away, drifts, tooFar: length > FARTHEST_CAST };
}

/** Lure depth behind a moving boat, m, and how unsure that is. */
export interface TrolledDepth {
  depth: number;
  low: number;
  high: number;
}

/**
 * About how deep a weight runs behind a boat: the line hangs at the angle at which its own weight in the water balances its drag,
 * tan α = weight / drag; an estimate, half as deep or half as deep again are possible with another line or lure.
 * @param line metres out behind the boat @param speed m/s @param mass of lure and weight, g
 * @param share of its weight that water leaves it: lead 0.91, a sinking plug 0.3
 */
export function trolledDepth(line: number, speed: number, mass: number, share = 0.9): TrolledDepth {
  const weight = (mass / 1000) * 9.81 * share;
  // Drag of lure (4 cm², 0.8) and of the line (0.3 mm, along its slant counted with a tenth of its side).
  const pressure = 0.5 * 1000 * speed * speed;
  const drag = pressure * (4e-4 * 0.8 + 3e-4 * line * 0.1);
  const depth = drag > 0 ? line * Math.sin(Math.atan2(weight, drag)) : line;
  return { depth, low: depth * 0.5, high: Math.min(line, depth * 1.5) };
}

/** Metres of line for a depth at a speed, by halving; null where no line of 150 m brings it there. */
export function lineForDepth(depth: number, speed: number, mass: number, share = 0.9): number | null {
  let [low, high] = [depth, 150];
  if (trolledDepth(high, speed, mass, share).depth < depth) return null;
  for (let k = 0; k < 40; k++) {
    const middle = (low + high) / 2;
    if (trolledDepth(middle, speed, mass, share).depth < depth) low = middle;
    else high = middle;
  }
  return high;
}
