/** Depths that are searched in cold water, in warm, and now and then, m. */
export const LAKE_BANDS: [number, number][] = [
  [5, 12],
  [2.5, 8],
  [1.2, 20],
];
/** The same on a coast. */
export const SEA_BANDS: [number, number][] = [
  [8, 22],
  [4, 18],
  [1.2, 30],
];
