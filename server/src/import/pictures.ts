import { addFinding, emptyReport, type FileReport } from '@restless-shoal/core/formats';
import { RequestError } from '../http/errors';
import { putPicture } from '../db/photos';
import { emptyMerge, type MergeResult } from '../db/merge';
import type { Client } from '../db/pool';
import { keepPicture } from '../photos';
import type { Source } from './sources';

/** As the interface takes them, bytes. */
const LARGEST = 25 * 1024 * 1024;

async function bytesOf(source: Source): Promise<Buffer | null> {
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const part of source.bytes()) {
    parts.push(part);
    length += part.length;
    if (length > LARGEST) return null;
  }
  return Buffer.concat(parts);
}

/**
 * Brings the pictures of photos in: a file belongs to the photos of the water that are called as it is, without its ending.
 * @returns what became of them as one report, and the files that no photo is called by
 */
export async function takePictures(
  client: Client,
  water: string,
  sources: Source[],
  update: boolean,
): Promise<{ report: FileReport; merge: MergeResult; unnamed: string[] }> {
  const [report, merge, unnamed] = [emptyReport('photos', 'photos'), emptyMerge(), [] as string[]];
  for (const [k, source] of sources.entries()) {
    const { rows } = await client.query<{ id: string; there: boolean }>(
      `SELECT p.id, f.photo_id IS NOT NULL AS there FROM photos p JOIN trips t ON t.id = p.trip_id LEFT JOIN photo_files f ON f.photo_id = p.id
        WHERE t.water_id = $1 AND p.photo = $2`,
      [water, source.name.replace(/\.[^.]+$/, '')],
    );
    if (!rows.length) {
      unnamed.push(source.name);
      continue;
    }
    report.read++;
    const wrong = (reason: string): void => addFinding(report.bad, { line: k + 1, column: source.name, reason });
    const wanted = rows.filter((r) => update || !r.there);
    if (!wanted.length) {
      report.used++;
      merge.same++;
      continue;
    }
    const bytes = await bytesOf(source);
    if (!bytes) {
      wrong('is larger than 25 MB');
      continue;
    }
    try {
      const kept = await keepPicture(bytes);
      for (const { id } of wanted) await putPicture(client, id, kept);
      report.used++;
      merge[wanted.some((r) => r.there) ? 'changed' : 'added']++;
    } catch (error) {
      if (!(error instanceof RequestError)) throw error;
      wrong('is no picture that can be read: JPEG, PNG or WebP');
    }
  }
  return { report, merge, unnamed };
}
