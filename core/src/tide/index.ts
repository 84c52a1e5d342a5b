/** The tide: heights and streams, from harmonic constants or from a table of high and low waters. Not for navigation. */
export { CONSTITUENTS, constituentNamed, tidalAngles, type Constituent, type TidalAngles } from './constituents';
export { Harmonics, type HarmonicConstant } from './harmonic';
export { extremesOf, type Tide, type TideExtreme } from './extremes';
export { HighLowTable, type HighOrLow } from './high-low-table';
export { hoursFromHigh, tideState, type TideState } from './state';
export { SLACK, streamByTable, towards, windAgainstTide, type StreamNow, type StreamRow } from './stream';
export { RESIDUAL, NO_TIDE, readTide, SIMULATED_TIDE, streamOf, tideOf, tideSchema, type TideRecord } from './record';
export { levelsAbout } from './levels';
export { highWaterSprings, nextCrossing, type Crossing } from './high-water';
