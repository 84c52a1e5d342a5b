import { createReadStream, existsSync, readdirSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import { csvRows, FormatError } from '@restless-shoal/core/formats';
import { BY_NAME, COVER_KINDS, records, RECORD_ORDER, type Fields, type RecordName } from '@restless-shoal/core/logbook';
import { targetOfName } from '@restless-shoal/core/tables';
import { openZip } from '../zip';
import { OTHERS_FILE } from './others';
import { textPart } from './parts/text';

/** One file to be read, wherever it comes from. Its bytes can be read more than once. */
export interface Source {
  name: string;
  /** The day that it was written, as 2024-05-31, where that is known. */
  day?: string;
  bytes(): AsyncIterable<Uint8Array> | Iterable<Uint8Array>;
}

export type SourceKind = RecordName | 'outline' | 'cover' | 'water' | 'gpx' | 'nmea' | 'picture' | 'others';

/** Products of an export: made from the records, so never read back. */
export const PRODUCT = /^(contours|features)\.geojson$|\.tiff?$|^marks\.gpx$/i;

/** Pictures of the log. */
const PICTURE = /\.(jpe?g|png|webp)$/;

const dayOf = (path: string): string => statSync(path).mtime.toISOString().slice(0, 10);

const fromDisk = (path: string): Source => ({
  name: basename(path),
  day: dayOf(path),
  bytes: () => createReadStream(path, { highWaterMark: 1 << 17 }),
});

/** The files behind what was named on the command line: files, folders, ZIPs. @throws FormatError */
export async function findSources(paths: string[]): Promise<Source[]> {
  const found: Source[] = [];
  for (const path of paths) {
    if (!existsSync(path)) throw new FormatError(`${path}: there is no such file or folder`);
    if (statSync(path).isDirectory()) {
      const names = readdirSync(path).filter((name) => !name.startsWith('.') && statSync(join(path, name)).isFile());
      // Pictures of an export lie in a folder of their own.
      const pictures = join(path, 'photos');
      if (existsSync(pictures) && statSync(pictures).isDirectory())
        names.push(...readdirSync(pictures).filter((name) => PICTURE.test(name.toLowerCase())).map((name) => join('photos', name))); // prettier-ignore
      if (!names.length) throw new FormatError(`${path}: the folder is empty`);
      for (const name of names.sort())
        found.push(...(/\.kmz$/i.test(name) ? await zipSources(join(path, name)) : [fromDisk(join(path, name))]));
    } else if (/\.(zip|kmz)$/i.test(path)) found.push(...(await zipSources(path)));
    else found.push(fromDisk(path));
  }
  return found;
}

/** The files of a ZIP, unpacked as they are read. @throws FormatError when it is broken, holds nothing, or more than any logbook */
async function zipSources(path: string): Promise<Source[]> {
  const file = basename(path);
  const day = dayOf(path);
  const sources = (await openZip(path, file))
    .filter(({ name }) => !name.endsWith('/') && !/(^|\/)(\.|__MACOSX)/.test(name))
    .map(({ name, bytes }): Source => ({ name: basename(name), day, bytes }));
  if (!sources.length) throw new FormatError(`${file}: the ZIP holds no file`);
  return sources;
}

/** Text files that are read whole are no longer than this, bytes. */
const LONGEST_TEXT = 200_000_000;

/** The whole of a text file. @throws FormatError when it is too long to be one */
export async function textOf(source: Source): Promise<string> {
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const part of source.bytes()) {
    parts.push(part);
    length += part.length;
    if (length > LONGEST_TEXT) throw new FormatError(`${source.name}: more than 200 MB of JSON is no outline and no cover of one water`);
  }
  return Buffer.concat(parts).toString('utf8');
}

/**
 * Which of our own formats a file holds, by its name and its header; null for what other programs wrote.
 * @param ours whether it lies in an export of ours, with products beside the records
 */
export async function kindOf(source: Source, ours: boolean): Promise<SourceKind | null> {
  const name = source.name.toLowerCase();
  if (PICTURE.test(name)) return 'picture';
  if (name === 'water.json') return 'water';
  if (name === OTHERS_FILE) return 'others';
  if (name === 'outline.geojson') return 'outline';
  if (name === 'cover.geojson') return 'cover';
  if (ours && PRODUCT.test(name)) return null;
  if (/\.gpx$/.test(name)) return 'gpx';
  if (/\.(nmea|log|0183)$/.test(name) || (/\.txt$/.test(name) && (await looksLikeNmea(source)))) return 'nmea';
  if (/\.(csv|tsv|txt)$/.test(name)) {
    const record = recordOfName(name);
    // A file with a name of ours that fits none is read as ours, so that what it lacks is said, unless it is another program's.
    return (await recordByHeader(source, record)) ?? (record && !(await textPart(source)) ? record : null);
  }
  if (/\.(geojson|json)$/.test(name)) return geoJsonKind(await textOf(source));
  return null;
}

/** The record that goes by the name of a file. */
export const recordOfName = (file: string): RecordName | undefined => RECORD_ORDER.find((r) => file.toLowerCase() === `${r}.csv`);

async function looksLikeNmea(source: Source): Promise<boolean> {
  for await (const chunk of source.bytes())
    return /(^|\n)[^$!\n]{0,40}[$!][A-Z]{2}[A-Z]{3},/.test(Buffer.from(chunk.subarray(0, 4096)).toString('latin1'));
  return false;
}

/** The record whose needed columns a header has. @param named the one that the file's name says: some of its columns are enough */
async function recordByHeader(source: Source, named: RecordName | undefined): Promise<RecordName | null> {
  for await (const batch of csvRows(source.bytes(), source.name)) {
    const header = batch[0].fields.map((f) => f.trim().toLowerCase());
    const fitting = RECORD_ORDER.filter(
      (r) =>
        (!BY_NAME.includes(r) || r === named) &&
        Object.entries(records[r] as Fields)
          .filter(([, f]) => f.needed)
          .every(([column]) => header.includes(column)),
    );
    if (named && Object.keys(records[named]).some((c) => c.includes('_') && header.includes(c))) return named;
    if (named && header.includes('trip')) return named;
    const known = (r: RecordName): number => header.filter((h) => h in records[r]).length;
    return fitting.sort((a, b) => known(b) - known(a))[0] ?? null;
  }
  return null;
}

function geoJsonKind(text: string): SourceKind | null {
  try {
    const json = JSON.parse(text) as {
      features?: { properties?: { kind?: unknown; within_m?: unknown; source?: unknown }; geometry?: { type?: string } }[];
    };
    const features = json.features ?? [json as never];
    // Marks that somebody blurred say how far off they may lie; some of them are of weed or a hazard.
    if (features.some((f) => typeof f.properties?.within_m === 'number' && f.properties.source == null)) return null;
    if (features.some((f) => (COVER_KINDS as readonly unknown[]).includes(f.properties?.kind))) return 'cover';
    // Lines that say how deep they run are no shore, and other systems than degrees have to be asked for.
    const deep = features.some((f) => Object.keys(f.properties ?? {}).some((k) => ['depth', 'elevation'].includes(targetOfName(k))));
    if (deep || 'crs' in json) return null;
    const typeOf = (f: (typeof features)[number]): string => f.geometry?.type ?? (f as { type?: string }).type ?? '';
    if (features.some((f) => /Point/.test(typeOf(f)))) return null;
    return features.some((f) => /Polygon|LineString/.test(typeOf(f))) ? 'outline' : null;
  } catch {
    return 'outline';
  }
}
