import { archRange, coneWidth, pingsOnTarget } from './beam';

/** How a fish shows that the boat passes over. */
export interface Passing {
  /** Width of the beam at its depth, m. */
  width: number;
  /** Pings that meet it. */
  pings: number;
  /** How much farther it shows at the edges of the beam than straight below, m: the height of its arch. */
  arch: number;
  /** How it is drawn: too few pings for a shape, a bow, or a line that hardly bends. */
  shape: 'specks' | 'arch' | 'dash' | 'streak';
  /** Length of its mark on the picture, m of the boat's way, and as share of its own length. */
  drawn: number;
}

/** Fewer pings than this make no shape; a bow shows where it is higher than the picture's steps. */
const FEWEST = 4;
/** Above this many pings a fish that stays below the boat is a streak. */
const STREAK = 60;

/**
 * A fish passed over: how many pings meet it and what they draw.
 * @param below depth of the fish below the transducer, m @param beam full angle, degrees @param length of the fish, m
 * @param speed of the boat, m/s @param rate pings a second @param step height of a line of the picture, m (range over its lines, or half a pulse)
 */
export function passing(below: number, beam: number, length: number, speed: number, rate: number, step: number): Passing {
  const width = coneWidth(below, beam);
  const pings = speed > 0 ? pingsOnTarget(length, width, rate, speed) : Infinity;
  const arch = speed > 0 ? archRange(below, speed, width / 2 / speed) - below : 0;
  const shape = pings < FEWEST ? 'specks' : pings > STREAK && arch < step ? 'streak' : arch >= step ? 'arch' : 'dash';
  return { width, pings, arch, shape, drawn: length + width };
}

/** How fast the boat may go for so many pings to meet a fish, m/s. @param below m @param beam degrees @param length m @param rate pings a second */
export const fastestFor = (pings: number, below: number, beam: number, length: number, rate: number): number =>
  ((length + coneWidth(below, beam)) * rate) / pings;
