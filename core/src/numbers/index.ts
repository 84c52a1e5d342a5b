/** Small numeric helpers that several rooms share. */
export { seeded } from './random';
