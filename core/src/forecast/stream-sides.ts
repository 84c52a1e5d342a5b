import { FAR, type CellTable } from '../chart';
import { towards, type StreamNow } from '../tide';

/**
 * What a cell is to water that runs: how much it runs there, on which side of a rise and of cover it lies, whether cover or a
 * rise is there at all, a seam, an eddy. Numbers of the order of one, nothing in slack water.
 */
export const STREAM_SIDES = ['runs', 'face', 'cover side', 'at cover', 'on a rise', 'seam', 'eddy'] as const;
export type StreamSide = (typeof STREAM_SIDES)[number];

/** At so many m/s a stream has most of its effect. A judgement. */
const HALF_STRONG = 0.5;
/** A bottom that rises one in so many faces the stream fully. */
const FULL_FACE = 12;
/** From so many metres over its surroundings on a place is fully on a rise. */
const FULL_RISE = 1.5;
const COVER_REACH = 30;
const SEAM_REACH = 25;

/** How much water that runs at a speed counts, 0–1. @param rate m/s */
export const strengthOf = (rate: number): number => Math.tanh(rate / HALF_STRONG);

const clamp = (v: number): number => Math.min(1, Math.max(-1, v));
const orZero = (v: number): number => (Number.isNaN(v) ? 0 : v);
const near = (distance: number, reach: number): number => (distance >= FAR ? 0 : Math.exp(-distance / reach));

/** How the water runs in a cell: direction of length one, m/s, and how fast against the mean of a river's section, 0 where that is not known. */
function runsIn(cells: CellTable, i: number, { set, rate }: StreamNow): [east: number, north: number, rate: number, own: number] {
  const [fe, fn] = [cells.flowEast[i], cells.flowNorth[i]];
  const own = Math.hypot(fe, fn);
  const angle = (set * Math.PI) / 180;
  // A river is read at one place and runs by its bed; a tide is told for all of a water.
  return own > 0 ? [fe / own, fn / own, own * rate, own] : [Math.sin(angle), Math.cos(angle), rate, own];
}

/**
 * How the water runs in a cell, where it was read somewhere on it: a river by its bed, other waters as they were read.
 * @param stream as read, of a river taken for the mean of its section
 */
export function streamIn(cells: CellTable, i: number, stream: StreamNow): StreamNow {
  const [east, north, rate, own] = runsIn(cells, i, stream);
  return own > 0 ? towards(east * rate, north * rate) : stream;
}

/**
 * Fills in the sides of a cell: `face` 1 where the bottom rises with the stream (the up-stream side of a rise), −1 behind it;
 * `cover side` the same of cover.
 */
export function streamSides(out: Float64Array, cells: CellTable, i: number, stream: StreamNow): Float64Array {
  const [east, north, rate, own] = runsIn(cells, i, stream);
  const r = strengthOf(rate);
  const cover = near(cells.woodDistance[i], COVER_REACH);
  const seam = near(cells.seamDistance[i], SEAM_REACH);
  out[0] = r;
  out[1] = r * clamp(FULL_FACE * (east * cells.riseEast[i] + north * cells.riseNorth[i]));
  out[2] = r * cover * (east * cells.coverEast[i] + north * cells.coverNorth[i]);
  out[3] = r * cover;
  // Bounded: beside a wall the bottom stands many metres over its surroundings, and a straight line would go on for ever.
  out[4] = r * clamp(orZero(cells.positionNear[i]) / FULL_RISE);
  out[5] = strengthOf(stream.rate) * seam;
  out[6] = own > 0 && own < EDDY ? strengthOf(stream.rate) : 0;
  return out;
}

/** Water of a river that runs at less than this share of its section's mean is slack or turns back. */
export const EDDY = 0.35;
