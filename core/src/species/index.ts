/** Species profiles: shipped ones, neutral ones, and how a name in a log finds its profile. */
export { neutralProfile, findSpecies, massFromLength, spawningDepth, speciesLike, type SpeciesProfile } from './profile';
export { defaultSpecies } from './defaults';
export { likelyTarget } from './likely-target';
export { DEFAULT_RULE, lightLimit, readDepthRule, type DepthRule } from './depth-rule';
export { suitability, suitabilityStep, type Suitability, type WindowInputs } from './suitability';
export { depthWindow, firstGuessDepth, isSqueezed, type DepthWindow, type WindowCode } from './window';
export { seasonOf, HOLD_DAYS, type Season, type SeasonInputs, type StageName, type StageSpan } from './season';
export {
  STRATEGIES,
  STRATEGY_SETTINGS,
  strategySetting,
  type Strategy,
  type StrategySetting,
  type StrategySettings,
} from './strategy-settings';
export { depthRuleSchema, speciesSchema } from './schema';
