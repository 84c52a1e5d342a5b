/** Patterns: what the fish had in common, against where the boat looked. */
export { chartPlaces, COVER_AT, coverAt, FARTHEST, type ChartPlaces } from './chart-places';
export { Moments, stagesOfLog, type Moment, type WaterLogbook } from './moments';
export {
  lookTable,
  clustersOf,
  KINDS,
  PLACE,
  type Logbook,
  type LogTrip,
  type LogContact,
  type LogStop,
  type LogResponse,
  type LookTable,
  type LookTarget,
} from './look-table';
export { spotYield, SPOT_CONDITIONS, type SpotCondition, type SpotStop, type YieldBand } from './spot-yield';
export { packLogbook, unpackLogbook } from './pack-logbook';
export {
  COVARIATES,
  covariatesOf,
  covariate,
  CovariateValues,
  classCount,
  classLabel,
  classOf,
  STAGES,
  type Covariate,
  type CovariateContext,
} from './covariates';
export { fitDetection, effectiveEffort, LEAST_DISTANCES, type ViewDetection } from './detection';
export { select, targetTest, LEAST_ODDS, type Question, type Selected } from './question';
export {
  selection,
  manlyRatio,
  jacobsIndex,
  INTERVAL,
  LEAST_TRIPS,
  type ClassedLooks,
  type SelectionClass,
  type SelectionOptions,
} from './selection';
export { standOut, HEADLINE_LEVEL, type StandOut, type StandOutTest } from './stand-out';
export { selectionCurve, type SelectionCurve } from './curve';
export {
  searchCombinations,
  finish,
  conditionsOf,
  heatMap,
  LEAST_LOOKS,
  LEAST_COMBINED_TRIPS,
  type Condition,
  type Combination,
  type CombinationSearch,
  type HeatCell,
  type ConditionCode,
} from './combinations';
export { dayWindows, shortestInterval, WINDOW_SHARE, LEAST_IN_WINDOW, type DayWindow, type DepthInterval } from './depth-window';
export {
  moodRows,
  moodBy,
  stopClocks,
  MOOD_FACTORS,
  LEAST_RESPONSES,
  EARLY_MINUTES,
  AFTER_MINUTES,
  type MoodRow,
  type MoodFactor,
  type MoodLine,
  type StopClock,
} from './mood';
export { AGAIN, markLives, returnsOf, LEAST_RETURNS, type MarkLife, type Return } from './marks';
export { nameReport, settledTargets, LEAST_SETTLED, type NameReport, type Calibration } from './names';
export { placeInColumn, SIGNS, signsOf, type Settled, type Signs } from './signs';
export { repeatability, LEAST_IN_YEAR, type Repeatability, type YearsAlike } from './repeatability';
export { debates, DEBATES, SHORT_RANGE, type Debate, type DebateInputs, type DebateKey, type Shown } from './debates';
export {
  findSimilarSpots,
  stepsApart,
  SIMILARITY_TRAITS,
  DEFAULT_WEIGHTS,
  type SimilarSpot,
  type SimilarityReason,
  type SimilarityTrait,
  type SimilarityWeights,
} from './similar-spots';
export {
  WaterPatterns,
  LEAST_TARGETS,
  LEAST_PATTERN_TRIPS,
  type GoodStop,
  type WhereAnswer,
  type PickedContact,
  type Pointed,
} from './water-patterns';
export { labelKey, type Band, type Label } from './label';
export { whereTheyHang, LEAST_HANGING, type WhereTheyHang, type TargetTrait } from './where-they-hang';
export { rodHours, type Rate, type RateClass, type RateKind, type RateTable, type RodHours, type RodHoursInput } from './rod-hours';
export { TargetOdds, type SpeciesOdds } from './target-odds';
