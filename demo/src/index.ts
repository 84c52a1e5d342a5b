/** The demo: a made-up water and the log of its guide, from a seed. */
export { makeLogbook, type Folder } from './logbook';
export { worldName } from './world';
