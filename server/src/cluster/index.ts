/** The private database of an installation. */
export { openDatabase, type Database } from './cluster';
export { SetUpError, type DataFolder } from './folder';
