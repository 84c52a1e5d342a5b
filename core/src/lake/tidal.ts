/** Kinds of water whose level follows the tide. */
const TIDAL = /coast|sea|tid|estuary|harbour|lagoon|fjord/i;

/** Water that flows is mixed. */
export const FLOWS = /\b(river|stream|creek|canal)\b|fluss|\bstrom\b|kanal|\bbach\b/i;

/** Whether a water of a kind, in its owner's words, is one of the coast. */
export const isTidal = (kind: string | null): boolean => TIDAL.test(kind ?? '');

/** Whether a water of a kind, in its owner's words, flows. */
const isRiver = (kind: string | null): boolean => !isTidal(kind) && FLOWS.test(kind ?? '');

/** What a water is to its chart, its forecast and its words. */
export type WaterSort = 'lake' | 'coast' | 'river';

/** What a water is, by its kind in its owner's words and by whether it has a tide. All but a lake run. */
export const sortOf = (kind: string | null, hasTide: boolean): WaterSort =>
  hasTide || isTidal(kind) ? 'coast' : isRiver(kind) ? 'river' : 'lake';
