import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { BY_NAME, RECORD_ORDER } from '@restless-shoal/core/logbook';
import { loadChart } from '../db/charts';
import { contactsOfWater } from '../db/log';
import { pictureById, picturesOfWater } from '../db/photos';
import type { Pool, Queryable } from '../db/pool';
import { coverOf, waterById, type WaterRow } from '../db/waters';
import { writeZip } from '../zip';
import { csvOf, hasRows } from './csv';
import { contoursGeoJson, coverGeoJson, featuresGeoJson, geoTiff, marksGpx, outlineGeoJson } from './products';

/** Files of an export beside the records. */
export const EXPORT_FILES = [
  'water.json',
  'outline.geojson',
  'cover.geojson',
  'contours.geojson',
  'features.geojson',
  'depth.tif',
  'hardness.tif',
  'marks.gpx',
] as const;
export type ExportFile = (typeof EXPORT_FILES)[number];

/** One file of a water's export; null when the water has nothing for it. */
export async function exportFile(db: Queryable, water: WaterRow, file: ExportFile): Promise<string | Buffer | null> {
  if (file === 'water.json') return waterJson(water);
  if (file === 'outline.geojson') return water.outline && !water.outline_proposed ? outlineGeoJson(water.name, water.outline) : null;
  if (file === 'cover.geojson') {
    const cover = await coverOf(db, water.id);
    return cover.length ? coverGeoJson(cover) : null;
  }
  if (file === 'marks.gpx') return marksGpx(water.name, await contactsOfWater(db, water.id), await coverOf(db, water.id));
  const chart = await loadChart(db, water.id);
  if (!chart || chart.soundings === 0) return null;
  switch (file) {
    case 'contours.geojson':
      return contoursGeoJson(chart);
    case 'features.geojson':
      return featuresGeoJson(chart);
    case 'depth.tif':
      return geoTiff(chart.depth, chart.epsg, 'Depth below datum, m');
    case 'hardness.tif':
      return geoTiff(chart.hardness, chart.epsg, 'Hardness of the bottom, 0 soft to 1 hard');
  }
}

function waterJson(water: WaterRow): string {
  const { name, kind, datum, altitude_m, time_zone, rules, forage, rigs, cleaning, tide } = water;
  // Said only where somebody said it: an outline and a chart know better.
  const { latitude, longitude, deepest_m } = water;
  const began = { ...(latitude === null ? {} : { latitude, longitude }), ...(deepest_m === null ? {} : { deepest_m }) };
  return (
    JSON.stringify(
      { name, kind, datum, altitude_m, ...began, time_zone, rules, forage, rigs, cleaning, ...(tide ? { tide } : {}) },
      null,
      2,
    ) + '\n'
  );
}

/** Hands out everything of a water, file by file, all of it of one moment: what is logged meanwhile is in all of the files or in none. */
async function eachFile(
  pool: Pool,
  { id, account_id: account }: WaterRow,
  take: (file: string, body: AsyncIterable<Uint8Array> | Iterable<Uint8Array>) => Promise<void>,
): Promise<{ written: { file: string; rows: number | null }[]; left: string[] }> {
  const written: { file: string; rows: number | null }[] = [];
  const left: string[] = [];
  const client = await pool.connect();
  let broken = true;
  try {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    for (const record of RECORD_ORDER) {
      // A log without photos looks as it always has.
      if (BY_NAME.includes(record) && !(await hasRows(client, record, id))) continue;
      let lines = -1;
      const counted = async function* (): AsyncGenerator<Buffer> {
        let open = false;
        for await (const chunk of csvOf(client, record, id)) {
          // Rows, not line breaks: a note may hold some.
          for (const byte of chunk) {
            if (byte === 34) open = !open;
            else if (byte === 10 && !open) lines++;
          }
          yield chunk;
        }
      };
      await take(`${record}.csv`, counted());
      written.push({ file: `${record}.csv`, rows: lines });
    }
    for (const { id: photo, photo: name } of await picturesOfWater(client, id)) {
      await take(`photos/${name}.jpg`, [await pictureById(client, photo)]);
      written.push({ file: `photos/${name}.jpg`, rows: null });
    }
    const water = await waterById(client, account, id);
    for (const file of EXPORT_FILES) {
      const body = water && (await exportFile(client, water, file));
      if (body === null) left.push(file);
      else {
        await take(file, [Buffer.from(body as string)]);
        written.push({ file, rows: null });
      }
    }
    await client.query('COMMIT');
    broken = false;
    return { written, left };
  } finally {
    // A table that was read half is not read on: its connection goes.
    client.release(broken);
  }
}

/** Writes a water out as a folder. @returns names and sizes of what was written, and what there was nothing for */
export async function exportFolder(pool: Pool, water: WaterRow, to: string): ReturnType<typeof eachFile> {
  await mkdir(to, { recursive: true });
  return eachFile(pool, water, async (file, body) => {
    await mkdir(dirname(join(to, file)), { recursive: true });
    await pipeline(Readable.from(body, { objectMode: false }), createWriteStream(join(to, file)));
  });
}

/** The same as one ZIP file. */
export async function exportZip(pool: Pool, water: WaterRow, to: string, signal?: AbortSignal): Promise<void> {
  await writeZip(createWriteStream(to, { mode: 0o600 }), async (add) => void (await eachFile(pool, water, add)), signal);
}
