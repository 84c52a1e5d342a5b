/** Tables as people keep them: what their columns mean is guessed, asked for, and remembered as a mapping. */
export { readDegrees } from './degrees';
export { targetOfName, unitsOf } from './columns';
export { columnNames, firstRowNames, guessPart, type Guess, type GuessInputs } from './guess';
export { guessOrder, hasOffset, readMoment, type DateOrder } from './moments';
export {
  mappedPlaces,
  mappingText,
  partMappings,
  readMapping,
  signatureOf,
  TARGETS,
  type ColumnMapping,
  type Mapping,
  type PartMapping,
  type PartUse,
  type Question,
  type Target,
} from './mapping';
export { soundingReader, type ReadInputs } from './read-soundings';
export { catchesOf, type CatchRecords, type KnownPlace } from './catches';
