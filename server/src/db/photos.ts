import type { StoredPhoto } from '@restless-shoal/core/contract';
import type { KeptPicture } from '../photos';
import type { Queryable } from './pool';

const SIZES = 'octet_length(f.picture) AS bytes, f.width, f.height';

/** The photos of a trip, oldest first, without the pictures. */
export const photosOf = async (db: Queryable, trip: string): Promise<StoredPhoto[]> =>
  (
    await db.query(
      `SELECT p.*, t.trip, ${SIZES} FROM photos p JOIN trips t ON t.id = p.trip_id LEFT JOIN photo_files f ON f.photo_id = p.id
        WHERE p.trip_id = $1 AND p.deleted_at IS NULL ORDER BY p.time, p.id`,
      [trip],
    )
  ).rows as StoredPhoto[];

/** The photos of all trips of a water, the last first. */
export const photosOfWater = async (db: Queryable, water: string): Promise<StoredPhoto[]> =>
  (
    await db.query(
      `SELECT p.*, t.trip, ${SIZES} FROM photos p JOIN trips t ON t.id = p.trip_id LEFT JOIN photo_files f ON f.photo_id = p.id
        WHERE t.water_id = $1 AND t.deleted_at IS NULL AND p.deleted_at IS NULL ORDER BY p.time DESC, p.id`,
      [water],
    )
  ).rows as StoredPhoto[];

/** Keeps the picture of a photo. One that is there already is put in its place. */
export async function putPicture(db: Queryable, id: string, { picture, small, width, height }: KeptPicture): Promise<void> {
  await db.query(
    `INSERT INTO photo_files (photo_id, picture, small, width, height) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (photo_id) DO UPDATE SET picture = EXCLUDED.picture, small = EXCLUDED.small, width = EXCLUDED.width, height = EXCLUDED.height`,
    [id, picture, small, width, height],
  );
}

/** A picture of a trip, JPEG; null where there is none. */
export const pictureOf = async (db: Queryable, trip: string, id: string, small: boolean): Promise<Buffer | null> =>
  (
    await db.query<{ bytes: Buffer }>(
      `SELECT f.${small ? 'small' : 'picture'} AS bytes FROM photo_files f JOIN photos p ON p.id = f.photo_id WHERE p.id = $1 AND p.trip_id = $2`,
      [id, trip],
    )
  ).rows[0]?.bytes ?? null;

/** Names and ids of the photos of a water that have a picture, one of each name, in order of the names. */
export const picturesOfWater = async (db: Queryable, water: string): Promise<{ id: string; photo: string }[]> =>
  (
    await db.query<{ id: string; photo: string }>(
      `SELECT DISTINCT ON (p.photo) p.id, p.photo FROM photos p JOIN photo_files f ON f.photo_id = p.id JOIN trips t ON t.id = p.trip_id
        WHERE t.water_id = $1 AND t.deleted_at IS NULL AND p.deleted_at IS NULL ORDER BY p.photo, p.id`,
      [water],
    )
  ).rows;

/** The picture of a photo by its id. */
export const pictureById = async (db: Queryable, id: string): Promise<Buffer> =>
  (await db.query<{ picture: Buffer }>('SELECT picture FROM photo_files WHERE photo_id = $1', [id])).rows[0].picture;
