/** The whole logbook as one file, and back. */
export { Backups, BackupFolderError } from './backups';
export { writeBackup } from './write';
export { checkBackup, NotEmptyError, readBackup } from './read';
export { type Manifest } from './tables';
