/** Positions (WGS 84 degrees), distances, the water's metric grid (UTM), polygons and rasters. */
export { distance, bearing, destination, type LatLon } from './sphere';
export { readPosition } from './read-position';
export { areaAt, BLUR_SIZES, blurCell, blurOf, blurred, BLURS, middleOfArea, type Blur, type BlurSize, type NamedArea } from './blur';
export { metricPlane, utmZone, utmEpsg, distanceToSegment, lineLength, type MetricPlane, type Point } from './plane';
export {
  geometryFault,
  outlineBox,
  outlineToRings,
  ringsArea,
  insideRings,
  ringsBounds,
  ringsCentroid,
  linesToRings,
  ringsToOutline,
  type Rings,
  type OutlineGeometry,
  OutlineError,
} from './outline';
export { Raster, CELL, cellKey, cellOf, cellCentre, parseCellKey } from './raster';
export { unionArea, patch, mayOverlap, type Patch } from './union-area';
export { WaterCells } from './water-cells';
export { insideTest } from './inside-test';
export { insideMask } from './mask';
export { distanceField } from './distance-field';
export { simplifyLine } from './simplify-line';
export { shoreFromTrack, type NoShore } from './shore-from-track';
