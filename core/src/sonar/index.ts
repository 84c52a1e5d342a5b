/** Geometry of beams and pictures, and the echoes a sonar would get of a known water. */
export { seaSoundSpeed, soundSpeed, soundSpeedIn } from './sound-speed';
export {
  archRange,
  coneWidth,
  fastestPings,
  heightFromShadow,
  layback,
  objectHeight,
  pingsOnTarget,
  screenDelayDistance,
  shadowLength,
  sideScanDistance,
  sideScanStrip,
  slantRange,
  targetStrength,
  timeInCone,
} from './beam';
export { deadZone, type DeadZone } from './dead-zone';
export { absorption, SEA_SALINITY, echoLoss, farthestFish, farthestSeen, separation } from './loss';
export { fastestFor, passing, type Passing } from './passing';
export { readSideScan, type Read, type SideScanAnswer, type SideScanReading } from './side-scan-reading';
export { mountOffsets, type Estimated, type MountOffsets, type OffsetPass, type OffsetTrouble } from './mount-offsets';
export { countBlobs, type BlobCount, type Brightness } from './count-blobs';
export { detectionCurve, type DetectionCurve, type DetectionTry } from './detection-curve';
export { boatAt, carriedOn, fromBoat, placeTarget, type BoatFix, type BoatState, type RigOffset } from './placing';
export type { Scene, SceneTarget, Transducer } from './scene';
export { forwardPicture, sideScanPing, sounderPing, type Listening } from './echo';
export { bottomOf, forwardPlace, type SounderColumn } from './read-picture';
export { EchoWatch, traces, type Clutter, type EchoAt, type EchoTrace } from './echo-watch';
export { DEFAULT_RIG, type Rig } from './rig';
export { forwardPoint, padPlace, sideScanPlace, type ScreenPlace, type SideScanPoint, type WorkingCode } from './screen-place';
export { isScreen, straightened, straightSize, straightToPhoto, type Corners, type Pixel, type Pixels } from './straighten';
export { readAlong, scaleOf, TOUCHED_TO, type PictureScale, type ScaleMark, type ScaleTrouble } from './picture-scale';
export { cutOut, patchContrast, strengthOf, strengthsOf, type Legend, type Outline, type PatchContrast } from './picture-strength';
export {
  judged,
  practiceRound,
  SKILLS,
  type Asked,
  type Choice,
  type PointedOut,
  type PracticePicture,
  type PracticeRound,
  type SideChoice,
  type Skill,
} from './practice-round';
export { nextSkill, skillStates, type Practised, type SkillState } from './practice-learner';
export { readTarget, type PictureReading, type ReadingTrouble, type ScaledPicture, type TouchedTarget } from './picture-targets';
export { boatAlong, passedObjects, passesOf, simulatedPasses, type Passed, type SimulatedMount } from './passes';
export { tuningPicture } from './tuning-picture';
export { bestContrast, type ContrastTry, type LevelContrast } from './best-contrast';
export { adviseSettings, type LookPlan, type Purpose, type SettingsCode } from './adviser';
