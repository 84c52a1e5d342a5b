import type { Geometry } from 'geojson';
import type { LatLon, NamedArea, Point } from '../geo';

export const COVER_KINDS = ['cover', 'weed', 'hard', 'hazard', 'access', 'mark', 'zone', 'area'] as const;

/**
 * Cover as logged or drawn: its kind (cover, weed, hard, hazard, access; a mark is a place somebody noted, in no
 * analysis; a zone is where a speed limit holds; an area is part of the water by the name that others are told), what it is, and where (WGS 84).
 */
export interface CoverFeature {
  kind: string;
  cover: string | null;
  /** How its owner calls it. */
  name?: string | null;
  /** How far it stands up from the bottom, m: weed, timber. */
  height_m?: number | null;
  /** How fast one may go in a zone, m/s. */
  speed_limit_ms?: number | null;
  /** Day it was put there or seen, as in 2026-05-02. */
  placed_on?: string | null;
  /** Who it is from, where it is not its owner's own: a mark that somebody sent. */
  source?: string | null;
  /** How far off it may lie, m, where it is from others and they said so. */
  within_m?: number | null;
  geometry: Geometry;
}

/** Whether something is an area that the owner of a water has drawn and named for others; one that others sent is not. */
export const isOwnArea = ({ kind, name, source }: CoverFeature): boolean => kind === 'area' && Boolean(name) && source == null;

/** Areas that the owner of a water has drawn and named for others, in its plane. */
export const namedAreas = (cover: readonly CoverFeature[], toMetric: (at: LatLon) => Point): NamedArea[] =>
  cover.filter(isOwnArea).flatMap(({ name, geometry }) => {
    const rings = geometry.type === 'Polygon' ? geometry.coordinates : geometry.type === 'MultiPolygon' ? geometry.coordinates.flat() : [];
    // The last corner is the first again.
    const corners = rings.map((ring) => ring.slice(0, -1).map(([longitude, latitude]) => toMetric({ latitude, longitude })));
    return corners.some((ring) => ring.length > 2) ? [{ name: name!, rings: corners.filter((ring) => ring.length > 2) }] : [];
  });
