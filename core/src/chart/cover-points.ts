import type { Geometry, Position } from 'geojson';
import { insideRings, ringsBounds, type Point } from '../geo';
import type { CoverFeature } from '../logbook';
import type { CoverPoints } from './cells';

const STEP = 10;

/** Cover as points at most 10 m apart, for distances. Hazards and access points hold no fish and are left out. */
export function coverPoints(features: CoverFeature[], toMetric: (position: Position) => Point): CoverPoints[] {
  return features
    .filter((f) => (f.kind === 'cover' || f.kind === 'weed') && f.cover !== 'none')
    .map((f) => ({ kind: f.kind === 'weed' || f.cover === 'weed' ? 'weed' : 'wood', points: sample(f.geometry, toMetric) }));
}

/** Points on drawn hard patches, lines and spots, at most 10 m apart. */
export const hardPoints = (features: CoverFeature[], toMetric: (position: Position) => Point): Point[] =>
  features.filter((f) => f.kind === 'hard').flatMap((f) => sample(f.geometry, toMetric));

function sample(geometry: Geometry, toMetric: (position: Position) => Point): Point[] {
  switch (geometry.type) {
    case 'Point':
      return [toMetric(geometry.coordinates)];
    case 'MultiPoint':
      return geometry.coordinates.map(toMetric);
    case 'LineString':
      return alongLine(geometry.coordinates.map(toMetric));
    case 'MultiLineString':
      return geometry.coordinates.flatMap((line) => alongLine(line.map(toMetric)));
    case 'Polygon':
      return insideArea(geometry.coordinates.map((ring) => ring.slice(0, -1).map(toMetric)));
    case 'MultiPolygon':
      return geometry.coordinates.flatMap((polygon) => insideArea(polygon.map((ring) => ring.slice(0, -1).map(toMetric))));
    case 'GeometryCollection':
      return geometry.geometries.flatMap((g) => sample(g, toMetric));
  }
}

function alongLine(line: Point[]): Point[] {
  const out: Point[] = [];
  for (let i = 1; i < line.length; i++) {
    const [a, b] = [line[i - 1], line[i]];
    const n = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / STEP));
    for (let s = 0; s <= n; s++) out.push([a[0] + ((b[0] - a[0]) * s) / n, a[1] + ((b[1] - a[1]) * s) / n]);
  }
  return out;
}

function insideArea(rings: Point[][]): Point[] {
  const [x0, y0, x1, y1] = ringsBounds(rings);
  const out: Point[] = [...rings.flat()];
  for (let y = y0 + STEP / 2; y < y1; y += STEP)
    for (let x = x0 + STEP / 2; x < x1; x += STEP) if (insideRings(rings, x, y)) out.push([x, y]);
  return out;
}
