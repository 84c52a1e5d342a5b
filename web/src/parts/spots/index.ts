/** A named place of a water, and what it yielded. */
export { SpotSheet } from './spot-sheet';
export { yieldWords } from './yield-words';
