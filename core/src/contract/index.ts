/** What server and client say to each other: routes with their schemas, answers and problems that both are built against. */
export type { TrashItem } from './trash';
export type {
  Change,
  FoundInTrip,
  LoggedTrip,
  SmallMark,
  SpeciesRecord,
  Spot,
  SpotMonth,
  SpotYield,
  StoredGear,
  StoredPhoto,
} from './logbook';
export type { ImportPreview, PartPreview } from './import-preview';
export { DEMOS, type DemoName } from './requests';
export type { BackupsState } from './backups';
export {
  JOB_KINDS,
  type Answers,
  type FeedState,
  type JobKind,
  type JobState,
  type DayPlan,
  type PlanPlace,
  type Pulse,
  type Reachable,
  type RunningTrip,
  type StoredContact,
  type StoredReading,
  type StoredResponse,
  type StoredStop,
  type StoredWater,
  type Survey,
  type TripDetail,
  type TripLooks,
  type TripOutcome,
  type TripRow,
  type Water,
  type WaterLog,
  type WaterSummary,
  type Written,
} from './answers';
export { PROBLEMS, problem, problemOfField, type Problem, type ProblemCode, type ProblemValues } from './problem';
export { addressOf } from './address';
export { METHODS, ROUTES, type Body, type JsonRoute, type Method, type Params, type Route, type RouteSpec } from './routes';
export { COMPANIONS, plantedTarget } from './requests';
export { jsonSchema, openApi } from './openapi';
