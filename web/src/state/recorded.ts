import { distance, type LatLon } from '@restless-shoal/core/geo';

/** A standing boat looks on: a fix at least this often, so that fixes join (30 s at most). */
export const HEARTBEAT_MS = 5000;
/** And at most this often, unless it has moved this far. */
const LEAST_MS = 900;
const LEAST_M = 8;

/**
 * Whether a position that came is recorded. A boat's network says where it is several times a second: a fix a second,
 * or every few metres, is enough of a track.
 * @param last the last that was recorded @param now ms
 */
export const isRecorded = (last: { at: number; position: LatLon | null }, now: number, position: LatLon): boolean =>
  !last.position || now - last.at >= LEAST_MS || distance(last.position, position) >= LEAST_M;
