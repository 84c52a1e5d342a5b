/** The whole logbook as one file, and back. */
export { writeBackup } from './write';
export { NotEmptyError, readBackup } from './read';
export { type Manifest } from './tables';
