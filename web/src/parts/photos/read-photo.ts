import type { LatLon } from '@restless-shoal/core/geo';
import { parts as msg } from '../../words';

/** A picture that somebody took or chose, ready to be kept. */
export interface ReadPhoto {
  /** JPEG, upright, with nothing in it but the picture. */
  picture: Blob;
  /** What the camera wrote into it: offered, and no part of the picture any more. */
  taken: Date | null;
  place: LatLon | null;
}

const LARGEST = 25 * 1024 * 1024;
/** Longest side of what is kept, px: fine enough to print, small enough to send from the water. */
const LONGEST_SIDE = 3000;

/** What a camera wrote into a picture: when, and where. */
async function written(file: File): Promise<Pick<ReadPhoto, 'taken' | 'place'>> {
  try {
    const { default: exifr } = await import('exifr');
    const said =
      (await exifr.parse(file, { gps: true, pick: ['DateTimeOriginal', 'OffsetTimeOriginal', 'GPSLatitude', 'GPSLongitude', 'GPSLatitudeRef', 'GPSLongitudeRef'] })) as  // prettier-ignore
        { DateTimeOriginal?: Date; latitude?: number; longitude?: number } | undefined;
    const taken = said?.DateTimeOriginal instanceof Date && !Number.isNaN(said.DateTimeOriginal.getTime()) ? said.DateTimeOriginal : null;
    const { latitude, longitude } = said ?? {};
    const placed = Number.isFinite(latitude) && Number.isFinite(longitude);
    return { taken, place: placed ? { latitude: latitude!, longitude: longitude! } : null };
  } catch {
    // Whatever it says, the picture can be seen.
    return { taken: null, place: null };
  }
}

/**
 * Opens a picture, turns it upright and draws it anew: only the picture goes on, without what the camera wrote into it.
 * @throws Error in the reader's words when it is too large, or this browser cannot open it
 */
export async function readPhoto(file: File): Promise<ReadPhoto> {
  if (file.size > LARGEST) throw new Error(msg('photos.tooLarge', { name: file.name }));
  const [said, image] = await Promise.all([
    written(file),
    createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => {
      throw new Error(
        /hei[cf]$/i.test(file.name) ? msg('photos.notHere', { name: file.name }) : msg('photos.noPicture', { name: file.name }),
      );
    }),
  ]);
  const scale = Math.min(1, LONGEST_SIDE / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(image.width * scale), Math.round(image.height * scale)];
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  const picture = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.88));
  if (!picture) throw new Error(msg('photos.noPicture', { name: file.name }));
  return { picture, ...said };
}
