import pLimit from 'p-limit';
import sharp from 'sharp';
import { RequestError } from '../http/errors';

/** A picture as it is kept. */
export interface KeptPicture {
  /** JPEG, upright, with nothing in it but the picture. */
  picture: Buffer;
  /** The same for lists. */
  small: Buffer;
  width: number;
  height: number;
}

/** Of what is kept and of what lists show, px. */
const [LONGEST_SIDE, SMALL_SIDE] = [4000, 480];
/** The largest sensors of phones. */
const MOST_PIXELS = 220e6;
const TAKEN = ['jpeg', 'png', 'webp'];

/** Parts of a JPEG that make the picture: what cameras write about it lies in others. */
const OF_PICTURE = new Set([0xe0, 0xee, 0xdb, 0xc0, 0xc1, 0xc2, 0xc4, 0xdd, 0xda]);

/** Whether a JPEG holds the picture and nothing else: no place, time or camera, no comment, nothing behind its end. */
export function isBare(jpeg: Uint8Array): boolean {
  if (jpeg[0] !== 0xff || jpeg[1] !== 0xd8) return false;
  for (let at = 2; at + 4 <= jpeg.length;) {
    if (jpeg[at] !== 0xff || !OF_PICTURE.has(jpeg[at + 1])) return false;
    if (jpeg[at + 1] === 0xda) return endsAt(jpeg, at) === jpeg.length;
    at += 2 + jpeg[at + 2] * 256 + jpeg[at + 3];
  }
  return false;
}

/** Where the picture ends: within it an end mark never comes by chance, but tables between scans may hold anything. */
function endsAt(jpeg: Uint8Array, from: number): number {
  for (let at = from; at + 1 < jpeg.length;) {
    if (jpeg[at] !== 0xff) at++;
    else if (jpeg[at + 1] === 0xd9) return at + 2;
    else if (jpeg[at + 1] === 0 || jpeg[at + 1] === 0xff || (jpeg[at + 1] >= 0xd0 && jpeg[at + 1] <= 0xd7))
      at += jpeg[at + 1] === 0xff ? 1 : 2;
    else if (!OF_PICTURE.has(jpeg[at + 1])) return -1;
    else at += 2 + jpeg[at + 2] * 256 + jpeg[at + 3];
  }
  return -1;
}

/** A large one takes hundreds of megabytes for a moment: one after the other. */
const oneByOne = pLimit(1);

/**
 * Reads a picture, turns it upright and takes out everything that is not the picture: time, place, camera, comments. One that
 * is so already stays as it is, byte for byte.
 * @param bytes JPEG, PNG or WebP
 * @throws RequestError when it cannot be read
 */
export const keepPicture = (bytes: Buffer): Promise<KeptPicture> =>
  oneByOne(async () => {
    const read = (): sharp.Sharp => sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    try {
      const { format, width, height } = await read().metadata();
      if (!TAKEN.includes(format)) throw new RequestError('picture-unreadable');
      const asItIs = format === 'jpeg' && Math.max(width, height) <= LONGEST_SIDE && isBare(bytes);
      const upright = read().rotate().flatten({ background: '#ffffff' });
      const within = { fit: 'inside', withoutEnlargement: true } as const;
      const kept = asItIs
        ? { data: bytes, info: { width, height } }
        : await upright.clone().resize(LONGEST_SIDE, LONGEST_SIDE, within).jpeg({ quality: 88 }).toBuffer({ resolveWithObject: true });
      const small = await upright.resize(SMALL_SIDE, SMALL_SIDE, within).jpeg({ quality: 75 }).toBuffer();
      return { picture: kept.data, small, width: kept.info.width, height: kept.info.height };
    } catch (error) {
      if (error instanceof RequestError) throw error;
      throw new RequestError('picture-unreadable');
    }
  });
