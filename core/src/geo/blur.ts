import { insideRings, ringsArea, ringsBounds, type Rings } from './outline';
import { metricPlane, utmEpsg, type Point } from './plane';
import type { LatLon } from './sphere';

/** Sizes of the cells that a place can be blurred to, m. Each lies whole in the next: who asks for several learns no more than the finest tells. */
export const BLUR_SIZES = [250, 500, 1000, 2000, 4000] as const;
export type BlurSize = (typeof BLUR_SIZES)[number];

/** How places are blurred for others: to squares of so many metres, or to the owner's own areas. */
export type Blur = BlurSize | 'areas';

/** A blur by the word for it, as in a query or a command; undefined for none. */
export const blurOf = (word: unknown): Blur | undefined => (word === 'areas' ? word : BLUR_SIZES.find((s) => String(s) === word));

/** All words for a blur. */
export const BLURS = [...BLUR_SIZES, 'areas'] as const;

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

/** A part of a water by a name that others are told: whatever lies in it is said to lie in it, and no more. */
export interface NamedArea {
  name: string;
  /** m in the water's plane. */
  rings: Rings;
}

/** The area that a place is said to lie in: of those that hold it the smallest, by name where two are as large; null outside of all. */
export const areaAt = (areas: readonly NamedArea[], [x, y]: Point): NamedArea | null =>
  areas
    .filter((a) => insideRings(a.rings, x, y))
    .sort((a, b) => ringsArea(a.rings) - ringsArea(b.rings) || (a.name < b.name ? -1 : 1))[0] ?? null;

/**
 * The one place that stands for an area, inside it whatever its form: the middle of the longest way across, west to east, at half
 * its height.
 * @returns it, and how far from it the area goes, m
 */
export function middleOfArea({ rings }: NamedArea): { at: Point; within: number } {
  // Of an area in pieces its largest piece.
  const largest = rings.reduce((a, b) => (ringsArea([b]) > ringsArea([a]) ? b : a));
  const [, south, , north] = ringsBounds([largest]);
  const y = (south + north) / 2;
  const crossings = rings.flatMap((ring) =>
    ring.flatMap(([x1, y1], i) => {
      const [x0, y0] = ring[(i + ring.length - 1) % ring.length];
      return y0 > y !== y1 > y ? [x0 + ((x1 - x0) * (y - y0)) / (y1 - y0)] : [];
    }),
  );
  crossings.sort((a, b) => a - b);
  let [from, to] = [NaN, NaN];
  for (let k = 0; k + 1 < crossings.length; k += 2) if (!(crossings[k + 1] - crossings[k] <= to - from)) [from, to] = [crossings[k], crossings[k + 1]]; // prettier-ignore
  const at: Point = [(from + to) / 2, y];
  return { at, within: Math.max(...rings.flat().map((p) => Math.hypot(p[0] - at[0], p[1] - at[1]))) };
}
