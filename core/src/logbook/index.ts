/** The records, their schemas, and what is derived from them: targets and looks. */
export { flushTiny, readField, Refused, readTime, type Field, type Fields } from './fields';
export {
  records,
  RECORD_ORDER,
  BY_NAME,
  SHOWN,
  GEAR_KINDS,
  VIEWS,
  CONTACT_KINDS,
  COVERS,
  MODES,
  FATES,
  OUTCOMES,
  RESPONSES,
  isBite,
  naturalKey,
  columnsOf,
  emptyRow,
  rowContradiction,
  rowOddity,
  type RecordName,
  type Row,
  type Sounding,
  type Trip,
  type Reading,
  type ProfileRow,
  type TrackFix,
  type Stop,
  type Contact,
  type Response,
  type Photo,
  type Gear,
} from './records';
export { schemas, isId, isTimeZone } from './schemas';
export { newId } from './ids';
export { rangeUnsaid, scanSwaths, trolledLines, USUAL_RANGE, type Fix, type Swath } from './effort';
export { bagOf, type Bag, type BagFish, type BagRules } from './bag';
export { likelySame } from './same-target';
export { mayHaveMoved, schoolMayHaveMoved } from './may-have-moved';
export { joinTargets, type Target, type Sighting } from './targets';
export {
  deriveLooks,
  VISIT_GAP_MS,
  DEFAULT_RADIUS,
  type Look,
  type SeenTarget,
  type EffortKind,
  type TripInPlane,
  type DerivedLooks,
} from './looks';
export { tripInPlane } from './in-plane';
export { COVER_KINDS, isOwnArea, namedAreas, type CoverFeature } from './cover';
export { areaLookedAt } from './water-looked-at';
export { LookingGuess } from './looking-guess';
