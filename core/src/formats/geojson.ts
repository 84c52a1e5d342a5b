import type { Feature, Geometry } from 'geojson';
import { geometryFault } from '../geo';
import { FormatError } from './csv';
import { addFinding, type FileReport } from './record-reader';
import { COVER_KINDS, type CoverFeature } from '../logbook';

/** The features of a GeoJSON text (a collection, a feature or a bare geometry). @throws FormatError */
export function readGeoJson(text: string, file: string): Feature[] {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new FormatError(`${file}: is not JSON: ${(error as Error).message}`);
  }
  const json = value as { type?: string; features?: unknown; geometry?: unknown };
  // What is no feature stays in its place as an empty one, so that it can be listed.
  if (json?.type === 'FeatureCollection' && Array.isArray(json.features))
    return json.features.map(
      (f) => (typeof f === 'object' && f !== null ? f : { type: 'Feature', properties: null, geometry: null }) as Feature,
    );
  if (json?.type === 'Feature' && json.geometry) return [json as Feature];
  if (typeof json?.type === 'string' && ('coordinates' in json || 'geometries' in json))
    return [{ type: 'Feature', properties: {}, geometry: json as unknown as Geometry }];
  throw new FormatError(`${file}: is JSON but not GeoJSON`);
}

/** The outline of a water: all polygons or lines of the file as one geometry. @throws FormatError when there is none */
export function readOutline(text: string, file: string): Geometry {
  const geometries = readGeoJson(text, file)
    .map((f) => f.geometry)
    .filter((g): g is Geometry => g != null && /Polygon|LineString|Collection/.test(g.type))
    // A geometry without a position is as good as none (RFC 7946, 3.1).
    .filter((g) => !('coordinates' in g && Array.isArray(g.coordinates) && g.coordinates.length === 0));
  if (!geometries.length) throw new FormatError(`${file}: holds no Polygon, MultiPolygon or closing line`);
  if (geometries.length === 1) return geometries[0];
  if (geometries.every((g) => g.type === 'LineString'))
    return { type: 'MultiLineString', coordinates: geometries.map((g) => (g as { coordinates: number[][] }).coordinates) };
  return { type: 'GeometryCollection', geometries };
}

/** Cover drawn as points, lines or areas. Features without a known kind are listed as bad. */
export function readCover(text: string, file: string, report: FileReport): CoverFeature[] {
  const out: CoverFeature[] = [];
  readGeoJson(text, file).forEach((feature, i) => {
    report.read++;
    const kind = String(feature.properties?.kind ?? '').toLowerCase();
    const fault = feature.geometry == null ? 'has no geometry' : geometryFault(feature.geometry);
    if (fault) addFinding(report.bad, { line: i + 1, column: 'geometry', reason: `feature ${i + 1} ${fault}` });
    else if (!(COVER_KINDS as readonly string[]).includes(kind))
      addFinding(report.bad, { line: i + 1, column: 'kind', reason: `feature ${i + 1}: "${kind}" is none of ${COVER_KINDS.join(', ')}` });
    else {
      report.used++;
      out.push({
        kind,
        cover: feature.properties?.cover != null ? String(feature.properties.cover).toLowerCase() : null,
        name: feature.properties?.name != null ? String(feature.properties.name).slice(0, 200) : null,
        height_m: numberIn(feature.properties?.height_m, 0, 1000),
        speed_limit_ms: numberIn(feature.properties?.speed_limit_ms, 0.1, 100),
        placed_on: /^\d{4}-\d\d-\d\d$/.test(String(feature.properties?.placed_on)) ? String(feature.properties!.placed_on) : null,
        ...sentBy(feature.properties),
        geometry: feature.geometry,
      });
    }
  });
  return out;
}

/** Who a feature is from and how far off it may lie, where it says so. */
function sentBy(properties: Feature['properties']): Pick<CoverFeature, 'source' | 'within_m'> {
  const source = typeof properties?.source === 'string' ? properties.source.trim().slice(0, 120) : '';
  return source ? { source, within_m: numberIn(properties!.within_m, 0, 100_000) } : {};
}

const numberIn = (value: unknown, min: number, max: number): number | null =>
  typeof value === 'number' && value >= min && value <= max ? value : null;
