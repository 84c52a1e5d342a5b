/** Kinds of water whose level follows the tide. */
const TIDAL = /coast|sea|tid|estuary|harbour|lagoon|fjord/i;

/** Whether a water of a kind, in its owner's words, is one of the coast. */
export const isTidal = (kind: string | null): boolean => TIDAL.test(kind ?? '');
