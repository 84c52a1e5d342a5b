/** The forecast: schools as prior, a fit on looks, a prediction for conditions, places with reasons. */
export { dayFor, frameLength, windowOn, type Conditions, type Day, type WaterFrame } from './conditions';
export { conditionsFromLog, castsOf, usualSurface, type TimedReading, type LoggedConditions } from './conditions-from-log';
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
export { fitModel, CancelledError, type Model, type ModelStats } from './fit';
export { logEffort, seenChance, type FitLook, type SpeciesLook } from './look-likelihood';
export { speciesOdds } from './species-odds';
export { looksForFit, sawSpecies } from './fit-looks';
export { Predictor, predict, chance, type Forecast } from './predict';
export { scoresOf, betterBy, calibrationSlope, logScore, type HeldLook, type Scores, type Scored } from './scores';
export { bestPlaces, placeName, reasonsAt, teaching, type Place } from './places';
export { FACTORS, type Reason, type Factor } from './reasons';
export { ofLarge, type SizeModel } from './size';
export { borrowFrom, ENOUGH_OF_ITS_OWN, LEAST_BORROWED, type Borrowed } from './borrow';
export { packModel, unpackModel } from './pack-model';
export { indexCells, regionFrom } from './region';
export { choleskyInPlace, choleskySolve } from './linear-algebra';
export { validate, RIVALS, LEAST_TRIPS, type ScoreCard, type HeldScores, type Held, type Rival, type SchoolLine } from './validate';
export { Rates } from './rates';
export { hotSpots, type CellTally } from './hot-spots';
export { outcomeOf, type Outlook, type Outcome } from './outcome';
export { forecastCsv } from './forecast-file';
export { movedToday, learnToday, seenEarlier, type SeenToday, type TodayModel, type DayLook } from './today';
