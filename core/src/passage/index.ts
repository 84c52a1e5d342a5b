/** On the water: where a boat may go, search passes, the day's run of stops, staying or leaving, how to come in and hold. */
export { sPass, type SPass } from './s-pass';
export { goBack, holdOff, type GoBack } from './approach';
export { worthStopping, type Advice, type AdviceCode, type Prospect } from './worth-stopping';
export {
  DEFAULT_BOAT,
  HAZARD_ROOM,
  NavigableWater,
  type NavigableInputs,
  type PassageArea,
  type PassageBoat,
  type SpeedZone,
} from './navigable';
export { NEAR_WATER, WaysFrom, WaysKnown, type Way } from './ways';
export { passSpacing, swathOf, type SearchView, type Spacing, type Swath } from './swath';
export { patchOf, type PatchWish, type SearchPatch } from './patch';
export { passChance, USUAL_DETECTION, type PassDetection, type Sought } from './seen';
export { searchPasses, WANTED, type PassTrouble, type PassWish, type SearchPasses } from './search-passes';
export { Follower, type Following } from './follow';
export {
  chanceAround,
  chanceAroundEach,
  daySpots,
  placeId,
  SPOT_TIMES,
  type OwnSpot,
  type SpotBrings,
  type SpotTime,
  type SpotWish,
} from './day-spots';
export {
  bestRoute,
  gainOf,
  nearestFirst,
  STAYS,
  timed,
  type RouteLeg,
  type RouteProblem,
  type RouteStop,
  type TimedLeg,
} from './orienteering';
export {
  runSheet,
  SET_UP,
  type LeftOutCode,
  type RunSheet,
  type SheetFuel,
  type SheetInputs,
  type SheetLeg,
  type SheetSpot,
  type SheetTrouble,
} from './run-sheet';
export {
  chanceAfter,
  chanceAtSimilar,
  missChance,
  rateElsewhere,
  rateHere,
  stayOrLeave,
  UNKNOWN_CHANCE,
  USUAL_PACE,
  type SpotOdds,
  type StayAdvice,
  type StayCode,
  type Tried,
} from './stay-or-leave';
export {
  DayPlanner,
  type BoatOnWater,
  type DayPlanAnswer,
  type DayPlanRequest,
  type LogForPlans,
  type PassRequest,
  type PlannedSpot,
  type ResetAnswer,
  type ResetRequest,
} from './day-planner';
export { pressureAt, type Pressure, type StopBefore } from './pressure';
export { fishedStops, learnBites, type FishedStop, type StopBites, type StopsLogged } from './learned-bites';
export { accountOf, HYPOTHESES, nextThree, type Hypothesis, type HypothesisAccount, type ResetInputs, type TestedCell } from './reset';
export {
  driftLine,
  driftOf,
  driftOver,
  sinksAside,
  WINDAGE,
  type Drift,
  type DriftLine,
  type DriftOver,
  type WindAndCurrent,
} from './drift';
export { castFor, FAST_SINK, lineForDepth, trolledDepth, type CastPlan, type TrolledDepth } from './casting';
export { comeIn, type ComeIn, type ComeInCode, type Lure, type SpotToFish } from './come-in';
export {
  anchored,
  anchorFor,
  inCast,
  SCOPE,
  turnAtAnchor,
  twoAnchors,
  YAW,
  type AnchorAnswer,
  type AnchorCode,
  type AnchorInputs,
  type TurnAtAnchor,
} from './anchor';
export { homeRoughFrom, roughness, Sea, windAgainstTideFrom, type WindBy } from './sea';
export {
  readWeather,
  simulatedWeather,
  thunderFrom,
  weatherAt,
  weatherGaps,
  windOfDay,
  type WeatherFault,
  type WeatherHour,
} from './weather';
