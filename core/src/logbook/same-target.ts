import { distance } from '../geo';
import { mayHaveMoved } from './may-have-moved';
import type { Contact } from './records';

type Seen = Pick<Contact, 'kind' | 'time' | 'latitude' | 'longitude' | 'top_m' | 'bottom_m'>;

/** How far a mark may be off when it is made, m: position, course and touch together. */
const OFF = 10;
/** After so many minutes a fish seen there is another one, as far as anybody can tell. */
const FORGOTTEN = 30;
/** Depths may differ by so much, m, beyond the extents of both. */
const DEPTH_OFF = 1.5;

/**
 * Earlier sightings that may be the same target as a new one: of the same kind, near in place, depth and (for what
 * swims) time. Judgement, not statistics: a person is asked.
 * @returns the nearest in place, with how far it is, m; null when there is none
 */
export function likelySame<T extends Seen>(seen: Seen, earlier: T[]): { contact: T; metres: number } | null {
  let best: { contact: T; metres: number } | null = null;
  for (const contact of earlier) {
    if (contact.kind !== seen.kind || contact.kind === 'thermocline' || contact.kind === 'bottom') continue;
    const minutes = (Date.parse(seen.time) - Date.parse(contact.time)) / 60_000;
    if (minutes < 0) continue;
    const swims = contact.kind === 'fish' || contact.kind === 'bait';
    if (swims && minutes > FORGOTTEN) continue;
    if (swims && depthApart(seen, contact) > DEPTH_OFF) continue;
    const metres = distance(seen, contact);
    if (metres > OFF + (swims ? mayHaveMoved(minutes) : 0)) continue;
    if (!best || metres < best.metres) best = { contact, metres };
  }
  return best;
}

/** Gap between the extents of two marks, m; 0 where they overlap or a depth is not known. */
function depthApart(a: Seen, b: Seen): number {
  if (a.top_m == null || b.top_m == null) return 0;
  return Math.max(0, a.top_m - (b.bottom_m ?? b.top_m), b.top_m - (a.bottom_m ?? a.top_m));
}
