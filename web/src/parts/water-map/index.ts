/** The map of a water. */
export { WaterMap } from './water-map';
export type { MapMark, MapPlace, ChanceLayer } from './controller';
export { strength } from './pictures';
