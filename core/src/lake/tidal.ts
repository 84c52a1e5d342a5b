/** Kinds of water whose level follows the tide. */
const TIDAL = /coast|sea|tid|estuary|harbour|lagoon|fjord/i;

/** Water that flows is mixed. */
export const FLOWS = /\b(river|stream|creek|canal)\b|fluss|\bstrom\b|kanal|\bbach\b/i;

/** Whether a water of a kind, in its owner's words, is one of the coast. */
export const isTidal = (kind: string | null): boolean => TIDAL.test(kind ?? '');

/** Whether a water of a kind runs: a river, or one with a tide. What is said of currents and their sides is said of such water alone. */
export const runs = (kind: string | null, hasTide: boolean): boolean => hasTide || isTidal(kind) || isRiver(kind);

/** Whether a water of a kind, in its owner's words, flows. */
export const isRiver = (kind: string | null): boolean => !isTidal(kind) && FLOWS.test(kind ?? '');

/** What a water of a kind is to its chart and its forecast. */
export const sortOf = (kind: string | null, hasTide: boolean): 'lake' | 'coast' | 'river' =>
  hasTide || isTidal(kind) ? 'coast' : isRiver(kind) ? 'river' : 'lake';
