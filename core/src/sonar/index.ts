/** Geometry of beams and pictures. */
export { seaSoundSpeed, soundSpeed } from './sound-speed';
export { coneWidth, deadZone, sideScanDistance, heightFromShadow, objectHeight } from './beam';
export { placeTarget, type BoatState, type RigOffset } from './placing';
