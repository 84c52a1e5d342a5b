import type { Geometry } from 'geojson';

export const COVER_KINDS = ['cover', 'weed', 'hard', 'hazard', 'access', 'mark', 'zone'] as const;

/**
 * Cover as logged or drawn: its kind (cover, weed, hard, hazard, access; a mark is a place somebody noted, in no
 * analysis; a zone is where a speed limit holds), what it is, and where (WGS 84).
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
  geometry: Geometry;
}
