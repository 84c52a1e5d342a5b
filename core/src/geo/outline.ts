import type { Geometry, Position } from 'geojson';
import type { Point } from './plane';

/** Closed rings in one list, filled by the even-odd rule: shores and islands alike. The last point is not repeated. */
export type Rings = Point[][];

export type OutlineGeometry = Geometry;

/** An outline that cannot be read; the message says why. */
export class OutlineError extends Error {}

const samePosition = (a: Position, b: Position): boolean => a[0] === b[0] && a[1] === b[1];

const keyOf = (p: Position): string => `${p[0]} ${p[1]}`;

/** Joins lines end to end into closed rings. @throws OutlineError when a line is left open by more than 50 m or so */
export function linesToRings(lines: Position[][]): Position[][] {
  const open = lines.filter((line) => line.length > 1);
  // Lines by where they end, so that the next one is found at once, however many there are.
  const ends = new Map<string, number[]>();
  open.forEach((line, k) => {
    for (const end of [line[0], line[line.length - 1]]) {
      const there = ends.get(keyOf(end));
      if (there) there.push(k);
      else ends.set(keyOf(end), [k]);
    }
  });
  const used = new Set<number>();
  const rings: Position[][] = [];
  for (let k = 0; k < open.length; k++) {
    if (used.has(k)) continue;
    used.add(k);
    const ring = [...open[k]];
    while (!samePosition(ring[0], ring[ring.length - 1])) {
      const tail = ring[ring.length - 1];
      const there = ends.get(keyOf(tail)) ?? [];
      while (there.length && used.has(there[there.length - 1])) there.pop();
      const next = there.pop();
      if (next === undefined) break;
      used.add(next);
      const line = samePosition(open[next][0], tail) ? open[next] : open[next].toReversed();
      for (let i = 1; i < line.length; i++) ring.push(line[i]);
    }
    const gap = Math.hypot(ring[0][0] - ring[ring.length - 1][0], ring[0][1] - ring[ring.length - 1][1]);
    if (gap > 0.0005) throw new OutlineError('the shore line does not close: its ends lie apart');
    rings.push(ring);
  }
  return rings;
}

/** How many lists lie about a position, by type. */
const NESTED: Record<string, number> = { Point: 0, MultiPoint: 1, LineString: 1, MultiLineString: 2, Polygon: 2, MultiPolygon: 3 };

/** RFC 7946, 3.1.8, says that collections should not lie in collections; some programs do it once or twice. */
const DEEPEST_COLLECTION = 8;

/**
 * Why a value is no GeoJSON geometry (RFC 7946) in degrees; null when it is one. Nothing is taken on trust:
 * files and requests say what they like.
 */
export function geometryFault(value: unknown, within = 0): string | null {
  const { type, coordinates, geometries } = (value ?? {}) as { type?: unknown; coordinates?: unknown; geometries?: unknown };
  if (type === 'GeometryCollection') {
    if (!Array.isArray(geometries)) return 'is a GeometryCollection without geometries';
    if (within >= DEEPEST_COLLECTION) return 'has collections in collections without end';
    for (const inner of geometries) {
      const fault = geometryFault(inner, within + 1);
      if (fault !== null) return fault;
    }
    return null;
  }
  if (typeof type !== 'string' || !Object.hasOwn(NESTED, type)) return 'is no GeoJSON geometry';
  return coordinatesFault(coordinates, NESTED[type]);
}

function coordinatesFault(value: unknown, nested: number): string | null {
  if (!Array.isArray(value)) return 'has coordinates that are no list';
  if (nested > 0) {
    if (!value.length) return 'has an empty list of coordinates';
    for (const part of value) {
      const fault = coordinatesFault(part, nested - 1);
      if (fault) return fault;
    }
    return null;
  }
  const [longitude, latitude] = value as unknown[];
  if (typeof longitude !== 'number' || typeof latitude !== 'number') return 'has a position that is not two numbers';
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180
    ? null
    : `position ${latitude}, ${longitude} is impossible (longitude comes first in GeoJSON)`;
}

/** @throws OutlineError when it is no geometry, or none that bounds a water */
function positionsOf(geometry: Geometry): Position[][] {
  const fault = geometryFault(geometry);
  if (fault) throw new OutlineError(fault);
  switch (geometry.type) {
    case 'Polygon':
      return geometry.coordinates;
    case 'MultiPolygon':
      return geometry.coordinates.flat();
    case 'LineString':
      return linesToRings([geometry.coordinates]);
    case 'MultiLineString':
      return linesToRings(geometry.coordinates);
    case 'GeometryCollection':
      return geometry.geometries.flatMap(positionsOf);
    default:
      throw new OutlineError(`a ${geometry.type} is not an outline; a Polygon, a MultiPolygon or closing lines are`);
  }
}

/**
 * A GeoJSON outline as metric rings.
 * @param geometry Polygon, MultiPolygon or lines that close (WGS 84, longitude first)
 * @param toMetric projection of [longitude, latitude]
 * @throws OutlineError when it is no outline, a ring has fewer than three corners, or a coordinate is impossible
 */
export function outlineToRings(geometry: Geometry, toMetric: (lon: number, lat: number) => Point): Rings {
  const rings = positionsOf(geometry).map((ring) => {
    const corners = ring.length > 1 && samePosition(ring[0], ring[ring.length - 1]) ? ring.slice(0, -1) : ring;
    if (corners.length < 3) throw new OutlineError('a ring of the outline has fewer than three corners');
    return corners.map(([lon, lat]) => toMetric(lon, lat));
  });
  if (!rings.length) throw new OutlineError('the outline has no ring');
  if (rings.length > MOST_RINGS)
    throw new OutlineError(`the outline has ${rings.length} separate shores; up to ${MOST_RINGS} can be taken`);
  const [x0, y0, x1, y1] = ringsBounds(rings);
  const km = (m: number): string => (m / 1000).toFixed(0);
  if (!((x1 - x0) * (y1 - y0) <= LARGEST_BOX))
    throw new OutlineError(
      `the outline spans ${km(x1 - x0)} by ${km(y1 - y0)} km, more than can be charted (${(LARGEST_BOX / 1e6).toFixed(0)} km² in all): draw the part that is fished`,
    );
  return rings;
}

/** A water of more islands than this is taken in parts. */
const MOST_RINGS = 5000;
/** All is kept by cells of 25 m: a box of so many is the largest that is worked out, m². */
const LARGEST_BOX = 2.5e9;

/** Even-odd test whether a point lies inside. */
export function insideRings(rings: Rings, x: number, y: number): boolean {
  let inside = false;
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [xi, yi] = ring[i];
      const [xj, yj] = ring[j];
      if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
    }
  }
  return inside;
}

/** Area in m² by the even-odd rule: rings inside an odd number of others count as holes. */
export function ringsArea(rings: Rings): number {
  let total = 0;
  const boxes = rings.map((ring) => ringsBounds([ring]));
  rings.forEach((ring, k) => {
    let twice = 0;
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) twice += ring[j][0] * ring[i][1] - ring[i][0] * ring[j][1];
    const [x, y] = ring[0];
    const others = rings.filter((_, m) => m !== k && x >= boxes[m][0] && x <= boxes[m][2] && y >= boxes[m][1] && y <= boxes[m][3]);
    total += (insideRings(others, ring[0][0], ring[0][1]) ? -1 : 1) * Math.abs(twice / 2);
  });
  return total;
}

/** Bounding box [minX, minY, maxX, maxY]. */
export function ringsBounds(rings: Rings): [number, number, number, number] {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings)
    for (const [x, y] of ring) {
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      if (y > y1) y1 = y;
    }
  return [x0, y0, x1, y1];
}

/** Middle of the bounding box of an outline: enough to choose a UTM zone. @throws OutlineError when it is no outline */
export function ringsCentroid(geometry: Geometry): { latitude: number; longitude: number } {
  const rings = positionsOf(geometry).map((ring) => ring.map((p) => [p[0], p[1]] as Point));
  const [x0, y0, x1, y1] = ringsBounds(rings);
  return { longitude: (x0 + x1) / 2, latitude: (y0 + y1) / 2 };
}

/** Rings in metres as polygons in degrees: a ring inside an odd number of others is a hole in the one around it. */
export function ringsToOutline(rings: Rings, toDegrees: (point: Point) => [longitude: number, latitude: number]): OutlineGeometry {
  const around = (ring: Point[]): Point[][] => rings.filter((other) => other !== ring && insideRings([other], ring[0][0], ring[0][1]));
  const closed = (ring: Point[]): [number, number][] => [...ring, ring[0]].map(toDegrees);
  const outer = rings.filter((ring) => around(ring).length % 2 === 0);
  return {
    type: 'MultiPolygon',
    coordinates: outer.map((ring) => {
      const depth = around(ring).length;
      return [closed(ring), ...rings.filter((hole) => around(hole).length === depth + 1 && around(hole).includes(ring)).map(closed)];
    }),
  };
}

/** West, south, east and north of an outline, degrees. */
export function outlineBox(outline: OutlineGeometry): [west: number, south: number, east: number, north: number] {
  return ringsBounds(outlineToRings(outline, (longitude, latitude) => [longitude, latitude]));
}
