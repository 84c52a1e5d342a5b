import type { Position } from 'geojson';
import { metricPlane, type Point } from '@restless-shoal/core/geo';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import type { MapCover } from './water-map';

/** Cover in the water's plane, one entry a spot, line or area. */
export function mapCover(cover: (CoverFeature & { id?: number })[], epsg: number): MapCover[] {
  const plane = metricPlane(epsg);
  const metres = ([longitude, latitude]: Position): Point => plane.toMetric({ latitude, longitude });
  return cover.flatMap(({ id, kind, cover: what, name, source, within_m, geometry }): MapCover[] => {
    const one = (type: MapCover['geometry']['type'], line: Position[]): MapCover => ({
      kind,
      name: name ?? (kind === 'hazard' ? (what ?? null) : null),
      ...(source != null && { sent: within_m ?? 0, sign: `sent ${id}` }),
      geometry: { type, points: line.map(metres) },
    });
    switch (geometry.type) {
      case 'Point':
        return [one('Point', [geometry.coordinates])];
      case 'MultiPoint':
        return geometry.coordinates.map((p) => one('Point', [p]));
      case 'LineString':
        return [one('LineString', geometry.coordinates)];
      case 'MultiLineString':
        return geometry.coordinates.map((line) => one('LineString', line));
      case 'Polygon':
        return [one('Polygon', geometry.coordinates[0])];
      case 'MultiPolygon':
        return geometry.coordinates.map((polygon) => one('Polygon', polygon[0]));
      case 'GeometryCollection':
        return mapCover(
          geometry.geometries.map((g) => ({ id, kind, cover: what, name, source, within_m, geometry: g })),
          epsg,
        );
    }
  });
}
