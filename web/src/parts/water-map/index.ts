/** The map of a water. */
export { WaterMap } from './water-map';
export type { MapMark, MapPlace, ChanceLayer } from './map-things';
export type { WaterMapController } from './controller';
export type { MapCover } from './map-features';
export type { DrawKind } from './drawing';
export type { DrawnSoundings } from './sheets';
export { strength } from './pictures';
