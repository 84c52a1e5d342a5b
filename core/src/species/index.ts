/** Species profiles: shipped ones, neutral ones, and how a name in a log finds its profile. */
export { neutralProfile, findSpecies, massFromLength, type SpeciesProfile } from './profile';
export { defaultSpecies } from './defaults';
export { likelyTarget } from './likely-target';
export {
  depthWindow,
  DEFAULT_RULE,
  firstGuessDepth,
  lightLimit,
  readDepthRule,
  type DepthRule,
  type DepthWindow,
  type WindowInputs,
} from './window';
export {
  seasonOf,
  usualCourse,
  usualAt,
  courseOfLatitude,
  HOLD_DAYS,
  type Season,
  type SeasonInputs,
  type StageName,
  type StageSpan,
  type SurfaceReading,
  type UsualCourse,
} from './season';
export { SCHOOLS, SCHOOL_SETTINGS, schoolSetting, type School, type SchoolSetting, type SchoolSettings } from './school-settings';
export { depthRuleSchema, speciesSchema } from './schema';
