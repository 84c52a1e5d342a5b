import type { Geometry } from 'geojson';

/** Cover as logged or drawn: its kind (cover, weed, hard, hazard, access), what it is, and where (WGS 84). */
export interface CoverFeature {
  kind: string;
  cover: string | null;
  geometry: Geometry;
}
