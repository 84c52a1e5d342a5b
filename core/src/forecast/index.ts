/** The forecast: strategies as prior, a fit on looks, a prediction for conditions, places with reasons. */
export {
  courseOf,
  dayFor,
  frameLength,
  waterYearOf,
  windowInputs,
  windowOn,
  type Conditions,
  type Day,
  type WaterFrame,
} from './conditions';
export {
  conditionsFromLog,
  groupProfiles,
  levelBaseOf,
  surfaceReadings,
  usualSurface,
  type TimedReading,
  type LoggedConditions,
  type CarriedCode,
} from './conditions-from-log';
export {
  strategyPlans,
  waveBrief,
  cautions,
  heatHypotheses,
  type StrategyPlan,
  type WaveBrief,
  type Caution,
  type HeatHypothesis,
  type PlanCode,
  type CautionCode,
  type HeatCode,
} from './brief';
export { STRATEGIES, strategyDay, strategyScore, combinedScore, fetchToward, windBlown, type Strategy } from './strategies';
export { fitModel, CancelledError, type Model, type ModelStats } from './fit';
export { logEffort, seenChance, type FitLook, type SpeciesLook } from './look-likelihood';
export { speciesOdds } from './species-odds';
export { looksForFit, sawSpecies } from './fit-looks';
export { STREAM_SIDES, streamIn, streamSides } from './stream-sides';
export { atTheirLevels } from './at-their-levels';
export { Predictor, predict, chanceOverTrips, type Forecast } from './predict';
export { scoresOf, betterBy, calibrationSlope, logScore, type HeldLook, type Scores, type Scored } from './scores';
export { bestPlaces, placeName, reasonsAt, teaching, type Place, type PlaceCode, type PlaceShape } from './places';
export { FACTORS, type Reason, type ReasonCode, type Factor } from './reasons';
export { chancesOfLarge, ofLarge, type SizeModel } from './size';
export { borrowFrom, ENOUGH_OF_ITS_OWN, LEAST_BORROWED, type Borrowed } from './borrow';
export { packModel, unpackModel } from './pack-model';
export { indexCells, regionFrom } from './region';
export { validate, RIVALS, LEAST_TRIPS, type ScoreCard, type HeldScores, type Held, type Rival, type StrategyLine } from './validate';
export { Rates } from './rates';
export { hotSpots, type CellTally } from './hot-spots';
export { outcomeOf, type Outlook, type Outcome } from './outcome';
export { forecastCsv } from './forecast-file';
export { lookedAt, tallyOf, type LookedAt } from './looked-at';
export { withinDayUpdate, learnToday, seenEarlier, type SeenToday, type TodayModel, type DayLook } from './today';
