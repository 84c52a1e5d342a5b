/** The private database of an installation. */
export { openDatabase, type Database } from './open-database';
export { holdLock, type Held } from './lock';
export { SetUpError, type DataFolder } from './folder';
