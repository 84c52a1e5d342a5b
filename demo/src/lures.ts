/** What this angler throws. */
export const LURES = [
  ['paddle-tail', 14, 'pearl'],
  ['paddle-tail', 21, 'motor oil'],
  ['blade bait', 18, 'silver'],
  ['crankbait', 16, 'perch'],
  ['hair jig', 10, 'white'],
] as const;
