/** The demo: a made-up water and the log of its guide, from a seed. */
export { altitudeOf, makeLogbook, type DemoOptions, type Folder, type MadeLogbook, type Scenario, type TripTruth } from './logbook';
export { Outing } from './angler';
export type { Helm } from './trip-rows';
export { Random } from './random';
export { FURTHER_WATERS, SECOND_WATER, drawnScenario } from './scenarios';
export { SOUND, SOUND_TIDE } from './sound';
export { REACH } from './reach';
export { worldName } from './world';
