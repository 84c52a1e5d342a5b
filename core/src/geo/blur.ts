import { metricPlane, utmEpsg, type Point } from './plane';
import type { LatLon } from './sphere';

/** Sizes of the cells that a place can be blurred to, m. Each lies whole in the next: who asks for several learns no more than the finest tells. */
export const BLUR_SIZES = [250, 500, 1000, 2000, 4000] as const;
export type BlurSize = (typeof BLUR_SIZES)[number];

/** The cell of a fixed grid that a place lies in: its corners of least and greatest easting and northing, m in the plane given. */
export function blurCell([x, y]: Point, size: BlurSize): { from: Point; to: Point } {
  const from: Point = [Math.floor(x / size) * size, Math.floor(y / size) * size];
  return { from, to: [from[0] + size, from[1] + size] };
}

/**
 * A place moved to the middle of the cell that it lies in. All places of a cell give the same answer, so that asking often, or
 * averaging many records of one spot, tells no more than the cell.
 * @param size side of the cell, m
 * @param epsg UTM zone of the water, so that all its places lie in one grid; that of the place without
 * @example blurred({ latitude: 48.2, longitude: -34.6 }, 1000)
 */
export function blurred(place: LatLon, size: BlurSize, epsg = utmEpsg(place)): LatLon {
  const plane = metricPlane(epsg);
  const { from } = blurCell(plane.toMetric(place), size);
  return plane.toLatLon([from[0] + size / 2, from[1] + size / 2]);
}
