import { createWriteStream } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { zipSync } from 'fflate';
import { RECORD_ORDER } from '@restless-shoal/core/logbook';
import { loadChart } from '../db/charts';
import { contactsOfWater } from '../db/log';
import type { Pool } from '../db/pool';
import { coverOf, type WaterRow } from '../db/waters';
import { csvOf } from './csv';
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
export async function exportFile(pool: Pool, water: WaterRow, file: ExportFile): Promise<string | Buffer | null> {
  if (file === 'water.json') return waterJson(water);
  if (file === 'outline.geojson') return water.outline && !water.outline_proposed ? outlineGeoJson(water.name, water.outline) : null;
  if (file === 'cover.geojson') {
    const cover = await coverOf(pool, water.id);
    return cover.length ? coverGeoJson(cover) : null;
  }
  if (file === 'marks.gpx') return marksGpx(water.name, await contactsOfWater(pool, water.id), await coverOf(pool, water.id));
  const chart = await loadChart(pool, water.id);
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
  const { name, kind, datum, altitude_m, time_zone, rules, forage, rigs, cleaning } = water;
  // Said only where somebody said it: an outline and a chart know better.
  const { latitude, longitude, deepest_m } = water;
  const began = { ...(latitude === null ? {} : { latitude, longitude }), ...(deepest_m === null ? {} : { deepest_m }) };
  return JSON.stringify({ name, kind, datum, altitude_m, ...began, time_zone, rules, forage, rigs, cleaning }, null, 2) + '\n';
}

/** Writes a water out as a folder. @returns names and sizes of what was written, and what there was nothing for */
export async function exportFolder(
  pool: Pool,
  water: WaterRow,
  to: string,
  onProgress: (words: string) => void = () => undefined,
): Promise<{ written: { file: string; rows: number | null }[]; left: string[] }> {
  await mkdir(to, { recursive: true });
  const written: { file: string; rows: number | null }[] = [];
  const left: string[] = [];
  const client = await pool.connect();
  try {
    // One view of the data: what is logged meanwhile is in all of the files or in none.
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    for (const record of RECORD_ORDER) {
      let lines = -1;
      const counted = async function* (): AsyncGenerator<Buffer> {
        let open = false;
        for await (const chunk of csvOf(client, record, water.id)) {
          // Rows, not line breaks: a note may hold some.
          for (const byte of chunk) {
            if (byte === 34) open = !open;
            else if (byte === 10 && !open) lines++;
          }
          yield chunk;
        }
      };
      await pipeline(Readable.from(counted()), createWriteStream(join(to, `${record}.csv`)));
      written.push({ file: `${record}.csv`, rows: lines });
      onProgress(`${record}.csv`);
    }
    await client.query('COMMIT');
  } finally {
    client.release();
  }
  for (const file of EXPORT_FILES) {
    const body = await exportFile(pool, water, file);
    if (body === null) left.push(file);
    else {
      await writeFile(join(to, file), body);
      written.push({ file, rows: null });
      onProgress(file);
    }
  }
  return { written, left };
}

/** The same as one ZIP, in memory. */
export async function exportZip(pool: Pool, water: WaterRow): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = {};
  const client = await pool.connect();
  try {
    for (const record of RECORD_ORDER) {
      const parts: Buffer[] = [];
      for await (const chunk of csvOf(client, record, water.id)) parts.push(chunk);
      files[`${record}.csv`] = Buffer.concat(parts);
    }
  } finally {
    client.release();
  }
  for (const file of EXPORT_FILES) {
    const body = await exportFile(pool, water, file);
    if (body !== null) files[file] = Buffer.from(body as string);
  }
  return zipSync(files, { level: 4 });
}
