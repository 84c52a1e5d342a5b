import { imageSize } from 'image-size';

/** Why a file is no picture that can be read. */
export type PictureTrouble = 'too-large' | 'no-picture' | 'cut-short' | 'too-many-pixels';

/** Largest file, bytes, and picture, pixels. */
const LARGEST = 25 * 1024 * 1024;
const MOST_PIXELS = 60_000_000;

const starts = (bytes: Uint8Array, at: number, text: string): boolean => [...text].every((c, k) => bytes[at + k] === c.charCodeAt(0));

/** Whether the end that its format has is there. */
function isWhole(bytes: Uint8Array, type: string): boolean {
  if (type === 'png') return starts(bytes, bytes.length - 8, 'IEND');
  if (type === 'webp') return new DataView(bytes.buffer, bytes.byteOffset).getUint32(4, true) + 8 <= bytes.length;
  // Some cameras write more behind the end of the picture.
  for (let k = bytes.length - 2; k >= Math.max(2, bytes.length - 65_536); k--) if (bytes[k] === 0xff && bytes[k + 1] === 0xd9) return true;
  return false;
}

/** What speaks against a file before anything of it is drawn: no PNG, JPEG or WebP, cut short on its way, too large. Null where nothing does. */
export function pictureTrouble(bytes: Uint8Array): PictureTrouble | null {
  if (bytes.length > LARGEST) return 'too-large';
  let size: { width: number; height: number; type?: string };
  try {
    size = imageSize(bytes);
  } catch {
    // Too little of it to say more.
    return /^(\x89PNG|\xff\xd8\xff|RIFF)/.test(String.fromCharCode(...bytes.subarray(0, 4))) ? 'cut-short' : 'no-picture';
  }
  if (!['png', 'jpg', 'webp'].includes(size.type ?? '')) return 'no-picture';
  if (size.width * size.height > MOST_PIXELS) return 'too-many-pixels';
  return isWhole(bytes, size.type!) ? null : 'cut-short';
}
