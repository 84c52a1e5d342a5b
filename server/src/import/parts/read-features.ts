import { kml as kmlFeatures } from '@tmcw/togeojson';
import { DOMParser } from '@xmldom/xmldom';
import type { Feature } from 'geojson';
import getShapefile from 'shpjs';
import { FormatError, readGeoJson } from '@restless-shoal/core/formats';

/** A map file to be read, and what lies beside a shapefile. */
export interface FeaturesTask {
  kind: 'kml' | 'geojson' | 'shape';
  name: string;
  bytes: Uint8Array;
  dbf?: Uint8Array;
  prj?: Uint8Array;
  cpg?: Uint8Array;
}

/** What a map file holds, and in which system: an EPSG code, null where it does not say. */
export interface Features {
  features: Feature[];
  crs: number | null;
}

/** Nested deeper than this is no map, and would be more than a stack holds. */
const DEEPEST = 200;

const textOf = (bytes: Uint8Array): string => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('utf8');

/** The features of a map file. For a worker: a large one takes its time. @throws FormatError when it is broken */
export async function readFeatures(task: FeaturesTask): Promise<Features> {
  switch (task.kind) {
    case 'kml':
      return { features: kmlOf(task.name, textOf(task.bytes)), crs: 4326 };
    case 'geojson':
      return geoJsonOf(task.name, textOf(task.bytes));
    case 'shape':
      return shapesOf(task);
  }
}

/** Whether tags stand in one another deeper than a reader bears. */
function isTooDeep(text: string): boolean {
  let depth = 0;
  for (const [tag] of text.matchAll(/<(?:!--[\s\S]*?-->|!\[CDATA\[[\s\S]*?\]\]>|[^>]*>)/g)) {
    if (tag.startsWith('</')) depth--;
    else if (!/^<[!?]|\/>$/.test(tag) && ++depth > DEEPEST) return true;
  }
  return false;
}

function kmlOf(name: string, text: string): Feature[] {
  if (isTooDeep(text)) throw new FormatError(`${name}: its parts nest more than ${DEEPEST} deep`);
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
  if (!root || wrong !== null) throw new FormatError(`${name}: is not XML that can be read: ${wrong ?? 'it is empty'}`);
  return kmlFeatures(root, { skipNullGeometry: true }).features as Feature[];
}

async function shapesOf({ name, bytes, dbf, prj, cpg }: FeaturesTask): Promise<Features> {
  const buffer = (of: Uint8Array): Buffer => Buffer.from(of.buffer, of.byteOffset, of.byteLength);
  try {
    const found = (await getShapefile({
      shp: buffer(bytes),
      ...(dbf ? { dbf: buffer(dbf) } : {}),
      ...(prj ? { prj: textOf(prj) } : {}),
      ...(cpg ? { cpg: textOf(cpg) } : {}),
    } as never)) as unknown as { features: Feature[] };
    // Without a .prj its coordinates are as the file has them.
    return { features: found.features, crs: prj ? 4326 : null };
  } catch (error) {
    throw new FormatError(`${name}: is no shapefile that can be read: ${(error as Error).message}`);
  }
}

/** The features of a GeoJSON text with the system that an old one names. */
function geoJsonOf(name: string, text: string): Features {
  const named = /"urn:ogc:def:crs:EPSG:[\d.]*:(\d+)"|"EPSG:(\d+)"/.exec(text.slice(0, 4000));
  const code = Number(named?.[1] ?? named?.[2] ?? 4326);
  return { features: readGeoJson(text, name), crs: code };
}
