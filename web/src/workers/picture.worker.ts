import { expose, transfer } from 'comlink';
import {
  countBlobs,
  cutOut,
  patchContrast,
  straightened,
  strengthsOf,
  type BlobCount,
  type Brightness,
  type Corners,
  type Legend,
  type Outline,
  type PatchContrast,
  type Pixels,
} from '@restless-shoal/core/sonar';
import { pictureTrouble, type PictureTrouble } from './picture-file';

/** A picture as it is shown. */
export interface ShownPicture {
  bitmap: ImageBitmap;
  width: number;
  height: number;
}

/** Pixels of what is read and shown at most, and of a cut that is counted. */
const MOST = 4_000_000;
const COUNTED = 200_000;

let photo: Pixels | null = null;
let read: Pixels | null = null;
let legend: Legend | null = null;
let strengths: Brightness | null = null;

const opened = (): Brightness => {
  if (!read) throw new Error('no picture is open');
  return (strengths ??= strengthsOf(read, legend));
};

async function shown(pixels: Pixels): Promise<ShownPicture> {
  const { width, height, data } = pixels;
  // Nobody waits for them yet; once a school is drawn round, they are there.
  setTimeout(() => read && opened(), 50);
  const bitmap = await createImageBitmap(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height));
  return transfer({ bitmap, width, height }, [bitmap]);
}

/** A square of strengths about a point. */
function square({ width, height, levels }: Brightness, x: number, y: number, half: number): number[] {
  const out: number[] = [];
  for (let j = Math.max(0, Math.round(y - half)); j < Math.min(height, y + half); j++)
    for (let i = Math.max(0, Math.round(x - half)); i < Math.min(width, x + half); i++) out.push(levels[j * width + i]);
  return out;
}

const corners = ({ width, height }: Pixels): Corners => [
  { x: 0, y: 0 },
  { x: width, y: 0 },
  { x: width, y: height },
  { x: 0, y: height },
];

// A thin shell round core: the picture stays here, answers go out.
const api = {
  /** Opens a picture; what cannot be one changes nothing. */
  async open(file: Blob): Promise<ShownPicture | PictureTrouble> {
    const trouble = pictureTrouble(new Uint8Array(await file.arrayBuffer()));
    if (trouble) return trouble;
    let bitmap: ImageBitmap;
    try {
      bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
    } catch {
      return 'cut-short';
    }
    const { width, height } = bitmap;
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    photo = { width, height, data: context.getImageData(0, 0, width, height).data };
    read = straightened(photo, corners(photo), MOST);
    [legend, strengths] = [null, null];
    return shown(read);
  },
  /** Straightens and cuts to four corners, px of what is shown now; all of the photo again where there are none. */
  straighten(to: Corners | null): Promise<ShownPicture> {
    if (!photo || !read) throw new Error('no picture is open');
    read = straightened(to ? read : photo, to ?? corners(photo), MOST);
    strengths = null;
    return shown(read);
  },
  /** Colours of a legend at places of the picture, from the weakest on; none for brightness. */
  legend(places: readonly { x: number; y: number }[]): void {
    if (!read) throw new Error('no picture is open');
    const { width, data } = read;
    legend = places.length
      ? places.map(({ x, y }) => {
          const at = 4 * (Math.round(y) * width + Math.round(x));
          return [data[at], data[at + 1], data[at + 2]] as const;
        })
      : null;
    strengths = null;
  },
  /** How many single targets an outline holds. @returns null where it holds nothing; places in px of the picture */
  count(outline: Outline): BlobCount | null {
    const cut = cutOut(opened(), outline, COUNTED);
    if (!cut) return null;
    const found = countBlobs(cut);
    const at = (v: number, from: number): number => from + (v + 0.5) * cut.step;
    return { ...found, size: found.size * cut.step, places: found.places.map(({ x, y }) => ({ x: at(x, cut.left), y: at(y, cut.top) })) };
  },
  /** The bottom's strength at one place against another. @param half of the patches' side, px */
  contrast(at: { x: number; y: number }, reference: { x: number; y: number }, half: number): PatchContrast {
    const picture = opened();
    return patchContrast(square(picture, at.x, at.y, half), square(picture, reference.x, reference.y, half));
  },
  close(): void {
    [photo, read, legend, strengths] = [null, null, null, null];
  },
};

export type PictureWorker = typeof api;

expose(api);
