import { fromBoat, slantRange } from '@restless-shoal/core/sonar';
import type { Boat } from '../../state/use-boat';
import type { DayEntry } from '../../parts/records/day-entries';
import { isFree, type Kind } from '../../parts/records/kinds';
import type { NearMark } from './pad';

/** Depth of the middle of what was marked, m. */
const middleOf = ({ top_m, bottom_m }: { top_m: number | null; bottom_m: number | null }): number | null =>
  top_m === null ? null : (top_m + (bottom_m ?? top_m)) / 2;

/**
 * What was marked within reach of the boat, where the touch on the Pad was: for a view that shows slant ranges, farther
 * out by the depth of the mark.
 */
export function nearMarks(boat: Boat, entries: DayEntry[], reach: number, slant: boolean, transducerDepth: number): NearMark[] {
  return entries
    .map((e): NearMark => {
      const record = e.kind === 'contact' ? e.contact : e.stop;
      const { ahead, starboard } = fromBoat(boat, record);
      const flat = Math.hypot(ahead, starboard);
      const deep = e.kind !== 'contact' ? null : isFree(e.contact.kind as Kind) ? middleOf(e.contact) : e.contact.water_depth_m;
      const out = slant && deep !== null && flat > 1 ? slantRange(flat, Math.max(0, deep - transducerDepth)) / flat : 1;
      return { id: record.id, kind: e.kind === 'contact' ? e.contact.kind : 'blank', ahead: ahead * out, starboard: starboard * out };
    })
    .filter((m) => Math.hypot(m.ahead, m.starboard) <= reach);
}
