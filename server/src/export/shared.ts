import { createWriteStream } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { csvLine } from '@restless-shoal/core/formats';
import {
  areaAt,
  BLUR_SIZES,
  blurred,
  metricPlane,
  middleOfArea,
  utmEpsg,
  type Blur,
  type BlurSize,
  type LatLon,
  type NamedArea,
} from '@restless-shoal/core/geo';
import { isOwnArea, namedAreas, records, type Contact, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { contactsOfWater, readingsOfWater, responsesOfWater, stopsOfWater, tripsOf } from '../db/log';
import { pictureById, photosOfWater } from '../db/photos';
import type { Pool, Queryable } from '../db/pool';
import { OTHERS_FILE, OTHERS_FORMAT } from '../import/others';
import { coverOf, type WaterRow } from '../db/waters';
import { writeZip } from '../zip';
import { coverGeoJson, marksGpx } from './products';

// A log for others: what was seen and caught, and not where. Places are those of a grid's cells, or of areas that the owner has
// drawn and named; what somebody wrote, who was aboard, names of files, tracks, soundings and cover tell of places and people, and
// stay at home.

/** Where others are told that a place is. */
interface ToldPlace extends LatLon {
  /** How far the true place may lie from it, m. */
  within: number;
  area: string | null;
}

/** What says of a place where others are told it is. Outside of all areas it is in the largest of the squares. */
function toldBy(blur: Blur, areas: NamedArea[], epsg: number | undefined): (at: LatLon) => ToldPlace {
  const inSquare = (at: LatLon, size: BlurSize): ToldPlace => ({ ...blurred(at, size, epsg), within: size / Math.SQRT2, area: null });
  if (blur !== 'areas') return (at) => inSquare(at, blur);
  const plane = epsg === undefined ? null : metricPlane(epsg);
  const middles = new Map(areas.map((a) => [a, middleOfArea(a)]));
  return (at) => {
    const area = plane && areaAt(areas, plane.toMetric(at));
    if (!area) return inSquare(at, BLUR_SIZES.at(-1)!);
    const middle = middles.get(area)!;
    return { ...plane.toLatLon(middle.at), within: middle.within, area: area.name };
  };
}

/** Free words and names, which may say where or who. */
const LEFT_OUT = new Set(['notes', 'signs', 'behaviour', 'crew', 'boat', 'rod', 'angler', 'settings', 'rig', 'caption', 'spot']);
const KEYS = ['trip', 'stop', 'contact', 'same_as'] as const;
const DIGITS = 5;

/** Gives keys that tell nothing, the same one for the same. */
class Renamed {
  private readonly names = new Map<string, string>();
  of(kind: string, key: string): string {
    const full = `${kind} ${key}`;
    if (!this.names.has(full)) this.names.set(full, `${kind}-${this.names.size + 1}`);
    return this.names.get(full)!;
  }
}

/** Rows as others may have them. @param place tells where others are told that a place is */
function forOthers(rows: readonly object[], place: (at: LatLon) => ToldPlace, renamed: Renamed): Row[] {
  return (rows as Row[]).map((row) => {
    const out: Row = { ...row };
    for (const name of LEFT_OUT) if (name in out) out[name] = null;
    if (row.latitude != null && row.longitude != null) {
      const { latitude, longitude } = place({ latitude: Number(row.latitude), longitude: Number(row.longitude) });
      Object.assign(out, { latitude: Number(latitude.toFixed(DIGITS)), longitude: Number(longitude.toFixed(DIGITS)) });
    }
    // With a chart, a depth to the decimetre finds the spot within its cell again.
    if (row.water_depth_m != null) out.water_depth_m = Math.round(Number(row.water_depth_m));
    for (const key of KEYS) if (row[key] != null) out[key] = renamed.of(key === 'same_as' ? 'contact' : key, `${key === 'trip' ? '' : `${row.trip_id} `}${row[key]}`); // prettier-ignore
    return out;
  });
}

function csvText(record: RecordName, rows: Row[]): string {
  const columns = Object.keys(records[record]);
  const text = (v: Row[string] | Date): string | number | null => (v instanceof Date ? v.toISOString() : v);
  return [columns, ...rows.map((r) => columns.map((c) => text(r[c] ?? null)))].map(csvLine).join('');
}

/** The files of a water's log for others, one after the other. */
export async function* sharedFiles(db: Queryable, water: WaterRow, blur: Blur): AsyncGenerator<[name: string, body: string | Buffer]> {
  const contacts = await contactsOfWater(db, water.id);
  const trips = (await tripsOf(db, water.id)).filter((t) => t.end !== null);
  const first = contacts[0] ?? (water.latitude === null ? null : { latitude: water.latitude, longitude: water.longitude! });
  // One grid for the whole water, whatever is asked for.
  const epsg = water.epsg ?? (first ? utmEpsg(first) : undefined);
  const cover = blur === 'areas' ? await coverOf(db, water.id) : [];
  const areas = epsg === undefined ? [] : namedAreas(cover, metricPlane(epsg).toMetric);
  const told = toldBy(blur, areas, epsg);
  /** Areas that something was told of: the others are nobody's business. */
  const used = new Set<string>();
  const place = (at: LatLon): ToldPlace => {
    const there = told(at);
    if (there.area) used.add(there.area);
    return there;
  };
  const renamed = new Renamed();
  const ended = new Set(trips.map((t) => t.id));
  const of = (rows: readonly { trip_id?: string }[]): Row[] =>
    forOthers(
      rows.filter((r) => ended.has(r.trip_id!)),
      place,
      renamed,
    );
  const marks = of(contacts);
  const where = contacts.filter((c) => ended.has(c.trip_id!)).map(place);
  yield ['trips.csv', csvText('trips', forOthers(trips, place, renamed))];
  yield ['conditions.csv', csvText('conditions', of(await readingsOfWater(db, water.id)))];
  yield ['stops.csv', csvText('stops', of(await stopsOfWater(db, water.id)))];
  yield ['contacts.csv', csvText('contacts', marks)];
  yield ['responses.csv', csvText('responses', of(await responsesOfWater(db, water.id)))];
  yield ['marks.gpx', marksGpx(water.name, marks as unknown as Contact[], [])];
  yield ['marks.geojson', marksGeoJson(marks, where)];
  const named = cover.filter((c) => isOwnArea(c) && used.has(c.name!));
  if (named.length) yield ['cover.geojson', coverGeoJson(named)];
  // Whoever reads the folder in keeps it apart from looks of his own.
  const within = Math.ceil(Math.max(0, ...where.map((w) => w.within), blur === 'areas' ? 0 : blur / Math.SQRT2));
  yield [OTHERS_FILE, `${JSON.stringify({ format: OTHERS_FORMAT, within_m: within }, null, 2)}\n`];
  // Of a screen or a spot a picture would tell where.
  const photos = (await photosOfWater(db, water.id)).filter(
    (p) => p.bytes && ended.has(p.trip_id!) && (p.shows === 'fish' || p.shows === 'day'),
  );
  for (const [k, p] of photos.reverse().entries())
    yield [`photos/photo-${String(k + 1).padStart(3, '0')}.jpg`, await pictureById(db, p.id)];
}

function marksGeoJson(marks: Row[], where: ToldPlace[]): string {
  const features = marks.map(({ latitude, longitude, kind, species, time, top_m, bottom_m, count }, k) => ({
    type: 'Feature',
    properties: {
      kind,
      species,
      time,
      top_m,
      bottom_m,
      count,
      within_m: Math.ceil(where[k].within),
      ...(where[k].area && { area: where[k].area }),
    },
    geometry: { type: 'Point', coordinates: [longitude, latitude] },
  }));
  return `${JSON.stringify({ type: 'FeatureCollection', features })}\n`;
}

/** Writes a water's log for others as one ZIP. */
export const exportShared = (pool: Pool, water: WaterRow, blur: Blur, to: string, signal?: AbortSignal): Promise<void> =>
  writeZip(
    createWriteStream(to, { mode: 0o600 }),
    async (add) => {
      for await (const [name, body] of sharedFiles(pool, water, blur)) await add(name, [Buffer.from(body as string)]);
    },
    signal,
  );

/** The same as a folder. @returns the names of its files */
export async function exportSharedFolder(pool: Pool, water: WaterRow, blur: Blur, to: string): Promise<string[]> {
  const written: string[] = [];
  for await (const [name, body] of sharedFiles(pool, water, blur)) {
    await mkdir(dirname(join(to, name)), { recursive: true });
    await writeFile(join(to, name), body);
    written.push(name);
  }
  return written;
}
