import proj4 from 'proj4';
import type { LatLon } from './sphere';

/** Metres east and north in a metric plane. */
export type Point = [x: number, y: number];

/** A water's metric plane: the UTM zone it lies in. Distances are true to 0.1 %. */
export interface MetricPlane {
  epsg: number;
  toMetric(position: LatLon): Point;
  toLatLon(point: Point): LatLon;
}

/** UTM zone number of a longitude (the exceptions round Norway and Svalbard are not applied: any one zone serves a water). */
export const utmZone = (longitude: number): number => Math.min(60, Math.max(1, Math.floor((longitude + 180) / 6) + 1));

/** EPSG code of the UTM zone of a position: 326zz north of the equator, 327zz south. */
export const utmEpsg = (position: LatLon): number => (position.latitude >= 0 ? 32600 : 32700) + utmZone(position.longitude);

const planes = new Map<number, MetricPlane>();

/** The plane of a UTM EPSG code. @throws RangeError when the code is no WGS 84 UTM zone */
export function metricPlane(epsg: number): MetricPlane {
  const known = planes.get(epsg);
  if (known) return known;
  const zone = epsg % 100;
  const south = Math.floor(epsg / 100) === 327;
  if (!(south || Math.floor(epsg / 100) === 326) || zone < 1 || zone > 60) throw new RangeError(`EPSG ${epsg} is not a UTM zone on WGS 84`);
  const transform = proj4('EPSG:4326', `+proj=utm +zone=${zone}${south ? ' +south' : ''} +datum=WGS84 +units=m +no_defs`);
  const plane: MetricPlane = {
    epsg,
    toMetric: (position) => transform.forward([position.longitude, position.latitude]) as Point,
    toLatLon: (point) => {
      const [longitude, latitude] = transform.inverse(point);
      return { latitude, longitude };
    },
  };
  planes.set(epsg, plane);
  return plane;
}

/** Distance of a point from a straight line between two others, m. */
export function distanceToSegment([x, y]: Point, [xa, ya]: Point, [xb, yb]: Point): number {
  const [dx, dy] = [xb - xa, yb - ya];
  const square = dx * dx + dy * dy;
  const t = square > 0 ? Math.min(1, Math.max(0, ((x - xa) * dx + (y - ya) * dy) / square)) : 0;
  return Math.hypot(x - xa - t * dx, y - ya - t * dy);
}

/** Length of a line, m. */
export function lineLength(points: readonly Point[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) sum += Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
  return sum;
}
