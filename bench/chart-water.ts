/** Side of the bench's square water, m, and its shore. */
export const SIDE = 5000;
export const SHORE: [number, number][] = [
  [0, 0],
  [SIDE, 0],
  [SIDE, SIDE],
  [0, SIDE],
];
