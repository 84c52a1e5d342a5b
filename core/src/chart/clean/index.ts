/** Cleaning of soundings: each step reversible, its effect told. */
export { cleanSoundings, type CleanContext, type Cleaned } from './clean';
export { levelAt, overDatum, type LevelReading } from './level';
export { passesOf, type CleanSettings, type CleanStep, type SoundingTable } from './table';
