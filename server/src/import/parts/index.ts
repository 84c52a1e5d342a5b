/** Files of other programs, cut into parts that a mapping says how to read. */
export { partsOf } from './parts-of';
export { toDegreesOf } from './crs';
export type { FilePart, PartRow } from './part';
