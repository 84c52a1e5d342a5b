/** Geometry of beams and pictures, and the echoes a sonar would get of a known water. */
export { seaSoundSpeed, soundSpeed } from './sound-speed';
export {
  archRange,
  coneWidth,
  deadZone,
  fastestPings,
  heightFromShadow,
  layback,
  objectHeight,
  pingsOnTarget,
  screenDelayDistance,
  shadowLength,
  sideScanDistance,
  slantRange,
  targetStrength,
  timeInCone,
} from './beam';
export { carriedOn, fromBoat, placeTarget, type BoatState, type RigOffset } from './placing';
export type { Scene, SceneTarget, Transducer } from './scene';
export { forwardPicture, sideScanPing, sounderPing, type Listening } from './echo';
export { bottomOf, forwardPlace, traces, type EchoTrace, type SounderColumn } from './read-picture';
