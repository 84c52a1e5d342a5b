import { kml as kmlFeatures } from '@tmcw/togeojson';
import { DOMParser } from '@xmldom/xmldom';
import type { Feature, Geometry, Position } from 'geojson';
import getShapefile from 'shpjs';
import { coverOfWaypoint, FormatError, readGeoJson } from '@restless-shoal/core/formats';
import { geometryFault } from '@restless-shoal/core/geo';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import { targetOfName } from '@restless-shoal/core/tables';
import type { Source } from '../sources';
import { SAMPLE, type FilePart, type PartRow } from './part';

/** Rows that are handed on at a time. */
const BATCH = 4096;
/** A map file that is read whole is no longer than this, bytes. */
const LONGEST = 400_000_000;

export async function bytesOf(source: Source): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const part of source.bytes()) {
    parts.push(part);
    length += part.length;
    if (length > LONGEST) throw new FormatError(`${source.name}: is longer than 400 MB: cut it into pieces`);
  }
  return Buffer.concat(parts);
}

/** The features of a KML text. @throws FormatError when it is none */
export function kmlOf(source: Source, text: string): Feature[] {
  let wrong: string | null = null;
  const document = new DOMParser({
    onError: (level, message) => {
      if (level !== 'warning') wrong ??= String(message);
    },
  });
  let root: ReturnType<DOMParser['parseFromString']> | null = null;
  try {
    root = document.parseFromString(text, 'text/xml');
  } catch (error) {
    wrong ??= (error as Error).message;
  }
  if (!root || wrong !== null) throw new FormatError(`${source.name}: is not XML that can be read: ${wrong ?? 'it is empty'}`);
  return kmlFeatures(root, { skipNullGeometry: true }).features as Feature[];
}

/** The features of a shapefile with what lies beside it. @throws FormatError */
export async function shapesOf(
  shp: Source,
  beside: (extension: string) => Source | undefined,
): Promise<{ features: Feature[]; crs: number | null }> {
  const [dbf, prj, cpg] = await Promise.all(
    ['dbf', 'prj', 'cpg'].map(async (e) => {
      const source = beside(e);
      return source && (await bytesOf(source));
    }),
  );
  try {
    const found = (await getShapefile({
      shp: await bytesOf(shp),
      ...(dbf ? { dbf } : {}),
      ...(prj ? { prj: prj.toString('utf8') } : {}),
      ...(cpg ? { cpg: cpg.toString('utf8') } : {}),
    } as never)) as unknown as { features: Feature[] };
    // Without a .prj its coordinates are as the file has them.
    return { features: found.features, crs: prj ? 4326 : null };
  } catch (error) {
    throw new FormatError(`${shp.name}: is no shapefile that can be read: ${(error as Error).message}`);
  }
}

/** The features of a GeoJSON text with the system that an old one names. @throws FormatError */
export function geoJsonOf(source: Source, text: string): { features: Feature[]; crs: number } {
  const named = /"urn:ogc:def:crs:EPSG:[\d.]*:(\d+)"|"EPSG:(\d+)"/.exec(text.slice(0, 4000));
  const code = Number(named?.[1] ?? named?.[2] ?? 4326);
  return { features: readGeoJson(text, source.name), crs: code };
}

interface Spread {
  line: number;
  position: Position;
  properties: Record<string, unknown>;
}

const textOfValue = (v: unknown): string => (v === null || v === undefined || typeof v === 'object' ? '' : String(v));

/** Points, lines and areas of a map file, each as a part of its own: the corners of lines with a depth are soundings. */
export function featureParts(source: Source, features: Feature[], crs: number | null): FilePart[] {
  const points: Spread[] = [];
  const corners: Spread[] = [];
  const lines: Position[][] = [];
  const areas: Geometry[] = [];
  const places: CoverFeature[] = [];
  const add = (geometry: Geometry | null, properties: Record<string, unknown>, line: number): void => {
    if (!geometry) return;
    switch (geometry.type) {
      case 'Point':
        points.push({ line, position: geometry.coordinates, properties });
        break;
      case 'MultiPoint':
        geometry.coordinates.forEach((position) => points.push({ line, position, properties }));
        break;
      case 'LineString':
        lines.push(geometry.coordinates);
        geometry.coordinates.forEach((position) => corners.push({ line, position, properties }));
        break;
      case 'MultiLineString':
        geometry.coordinates.forEach((coordinates) => add({ type: 'LineString', coordinates }, properties, line));
        break;
      case 'Polygon':
      case 'MultiPolygon':
        areas.push(geometry);
        break;
      case 'GeometryCollection':
        geometry.geometries.forEach((g) => add(g, properties, line));
    }
  };
  features.forEach((f, k) => add(f.geometry, f.properties ?? {}, k + 1));
  const parts: FilePart[] = [];
  const degrees = crs === null || crs === 4326;
  if (degrees)
    for (const { line, position, properties } of points) {
      const words = ['name', 'description', 'desc', 'type', 'kind'].map((k) => textOfValue(properties[k])).join(' ');
      const name = textOfValue(properties.name ?? properties.Name).slice(0, 200) || null;
      if (!geometryFault({ type: 'Point', coordinates: position }))
        places.push(coverOfWaypoint({ line, latitude: position[1], longitude: position[0], name, words, depth: null, time: null }));
    }
  if (points.length) parts.push(spreadPart(source, 'points', points, crs, { places }));
  if (corners.length) {
    // Lines that tell no depth can still be the shore.
    const deep = spreadPart(source, 'lines', corners, crs, {});
    const sounded = deep.columns!.some((c) => ['depth', 'elevation'].includes(targetOfName(c)));
    parts.push(sounded ? deep : { ...deep, outline: lines.length === 1 ? { type: 'LineString', coordinates: flat(lines[0]) } : { type: 'MultiLineString', coordinates: lines.map(flat) } }); // prettier-ignore
  }
  if (areas.length)
    parts.push({
      file: source.name,
      part: 'areas',
      columns: ['areas'],
      sample: [[`${areas.length}`]],
      crs,
      day: source.day ?? null,
      rows: nothing,
      outline: areas.length === 1 ? areas[0] : { type: 'GeometryCollection', geometries: areas },
    });
  return parts;
}

const flat = (line: Position[]): Position[] => line.map(([x, y]) => [x, y]);

async function* nothing(): AsyncGenerator<PartRow[]> {
  yield await Promise.resolve([]);
}

/** Positions with what their features say of them, as a table. */
function spreadPart(source: Source, part: string, spread: Spread[], crs: number | null, more: Partial<FilePart>): FilePart {
  const names = new Set<string>();
  for (const { properties } of spread.slice(0, 5000)) for (const key of Object.keys(properties)) names.add(key);
  const own = [...names].filter((n) => spread.slice(0, 5000).some((s) => textOfValue(s.properties[n]) !== ''));
  // A third coordinate is a depth or a height, unless it is nought throughout.
  const third =
    spread.slice(0, 5000).some((s) => typeof s.position[2] === 'number' && s.position[2] !== 0) &&
    !own.some((n) => targetOfName(n) === 'depth');
  const degrees = crs === 4326;
  const columns = [degrees ? 'longitude' : 'x', degrees ? 'latitude' : 'y', ...(third ? ['z'] : []), ...own];
  const fieldsOf = ({ position, properties }: Spread): string[] => [
    String(position[0]),
    String(position[1]),
    ...(third ? [String(position[2] ?? '')] : []),
    ...own.map((n) => textOfValue(properties[n])),
  ];
  return {
    file: source.name,
    part,
    columns,
    sample: spread.slice(0, SAMPLE).map(fieldsOf),
    crs,
    day: source.day ?? null,
    rows: async function* () {
      for (let k = 0; k < spread.length; k += BATCH)
        yield await Promise.resolve(spread.slice(k, k + BATCH).map((s) => ({ line: s.line, fields: fieldsOf(s) })));
    },
    ...more,
  };
}
