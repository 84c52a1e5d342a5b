/** Patterns: what the fish had in common, against where the boat looked. */
export { selection, manlyRatio, jacobsIndex, type ClassedLook, type SelectionClass } from './selection';
export { seeded } from './random';
