/** What this angler takes a mark for, and throws at it. */
export const PREDATORS = ['zander', 'perch', 'pike', 'bream'];
/** What a mark of a species is taken for, by how the log's angler reads the screen. */
export const TAKEN_FOR: Record<string, [name: string, share: number][]> = {
  zander: [
    ['zander', 0.8],
    ['perch', 0.1],
    ['bream', 0.1],
  ],
  perch: [
    ['perch', 0.78],
    ['zander', 0.14],
    ['roach', 0.08],
  ],
  pike: [
    ['pike', 0.86],
    ['zander', 0.14],
  ],
  bream: [
    ['bream', 0.72],
    ['zander', 0.22],
    ['perch', 0.06],
  ],
};
export const LURES = [
  ['paddle-tail', 14, 'pearl'],
  ['paddle-tail', 21, 'motor oil'],
  ['blade bait', 18, 'silver'],
  ['crankbait', 16, 'perch'],
  ['hair jig', 10, 'white'],
] as const;
