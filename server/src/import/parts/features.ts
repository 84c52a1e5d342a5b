import type { Feature, Geometry, Position } from 'geojson';
import { coverOfWaypoint, FormatError } from '@restless-shoal/core/formats';
import { geometryFault } from '@restless-shoal/core/geo';
import type { CoverFeature } from '@restless-shoal/core/logbook';
import { targetOfName } from '@restless-shoal/core/tables';
import { runFeatures } from '../../jobs/pool';
import { withinOf } from '../others';
import type { Source } from '../sources';
import { SAMPLE, type FilePart, type PartRow } from './part';
import type { Features, FeaturesTask } from './read-features';

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

/** What a map file holds, read in a worker. @param beside the other files of a shapefile @throws FormatError */
export async function featuresOf(
  source: Source,
  kind: FeaturesTask['kind'],
  beside: (extension: string) => Source | undefined = () => undefined,
): Promise<Features> {
  const task: FeaturesTask = { kind, name: source.name, bytes: await bytesOf(source) };
  for (const extension of ['dbf', 'prj', 'cpg'] as const) {
    const other = beside(extension);
    if (other) task[extension] = await bytesOf(other);
  }
  return runFeatures(task);
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
        places.push({
          ...coverOfWaypoint({ line, latitude: position[1], longitude: position[0], name, words, depth: null, time: null }),
          ...(withinOf(properties.within_m) !== null && {
            name: name ?? (textOfValue(properties.species || properties.kind) || null),
            within_m: withinOf(properties.within_m),
          }),
        });
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
