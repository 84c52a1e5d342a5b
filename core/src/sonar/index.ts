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
export { boatAt, carriedOn, fromBoat, placeTarget, type BoatFix, type BoatState, type RigOffset } from './placing';
export type { Scene, SceneTarget, Transducer } from './scene';
export { forwardPicture, sideScanPing, sounderPing, type Listening } from './echo';
export { bottomOf, forwardPlace, type SounderColumn } from './read-picture';
export { EchoWatch, traces, type Clutter, type EchoAt, type EchoTrace } from './echo-watch';
export { DEFAULT_RIG, type Rig } from './rig';
export { forwardPoint, padPlace, sideScanPlace, type ScreenPlace, type SideScanPoint } from './screen-place';
