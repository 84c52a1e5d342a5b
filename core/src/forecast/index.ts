/** The forecast: schools as prior, a fit on looks, a prediction for conditions, places with reasons. */
export { dayFor, frameLength, windowOn, type Conditions, type Day, type WaterFrame } from './conditions';
export {
  conditionsFromLog,
  castBefore,
  castsOf,
  usualSurface,
  type TimedReading,
  type Cast,
  type LoggedConditions,
} from './conditions-from-log';
export {
  schoolPlans,
  waveBrief,
  cautions,
  heatHypotheses,
  type SchoolPlan,
  type WaveBrief,
  type Caution,
  type HeatHypothesis,
} from './brief';
export { SCHOOLS, SCHOOL_NAMES, schoolDay, schoolScore, combinedScore, fetchToward, windBlown, type School } from './schools';
export { fitModel, sawSpecies, logEffort, CancelledError, type Model, type FitLook, type ModelStats } from './fit';
export { looksForFit } from './fit-looks';
export { predict, chance, type Forecast } from './predict';
export { bestPlaces, placeName, reasonsAt, type Place } from './places';
export { FACTORS, type Reason, type Factor } from './reasons';
export { packModel, unpackModel } from './pack-model';
export { indexCells, regionFrom } from './region';
export { choleskyInPlace, choleskySolve } from './linear-algebra';
