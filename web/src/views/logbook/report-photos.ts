import { useEffect, useState } from 'react';
import type { StoredPhoto } from '../../api/queries';
import { pictureAddress } from '../../parts/photos';
import type { Outbox } from '../../offline/outbox';

/** A picture of the report: within the page itself, so that a file that is sent holds all of it. */
export interface ReportPhoto {
  id: string;
  /** JPEG as a data address. */
  source: string;
  caption: string | null;
  /** Of the fish that it shows. */
  responseTime: string | null;
}

/** Longest side in a report, px. */
const LONGEST_SIDE = 1400;

/** Pictures that a client may see: of fish and of the day. Of a screen or a spot they would tell where. */
export const forClients = (photos: readonly StoredPhoto[]): StoredPhoto[] =>
  photos.filter((p) => p.shows === 'fish' || p.shows === 'day').sort((a, b) => a.time.localeCompare(b.time));

async function drawn(blob: Blob): Promise<string> {
  const image = await createImageBitmap(blob, { imageOrientation: 'from-image' });
  const scale = Math.min(1, LONGEST_SIDE / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(image.width * scale), Math.round(image.height * scale)];
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  return canvas.toDataURL('image/jpeg', 0.82);
}

/**
 * The pictures of a trip for a report, drawn anew: a file that is handed on holds the picture alone.
 * @returns null while they are being read; those that cannot be had are left out
 */
export function useReportPhotos(
  trip: string,
  photos: readonly StoredPhoto[] | null,
  waiting: ReturnType<Outbox['snapshot']>['waiting'],
): ReportPhoto[] | null {
  const [read, setRead] = useState<ReportPhoto[] | null>(null);
  const wanted = photos && forClients(photos);
  const key = wanted?.map((p) => `${p.id} ${p.bytes}`).join();
  useEffect(() => {
    if (!wanted) return;
    let over = false;
    const one = async (p: StoredPhoto): Promise<ReportPhoto[]> => {
      try {
        const kept = waiting.find((e) => e.path.endsWith(`/photos/${p.id}/picture`))?.body;
        const blob = kept instanceof Blob ? kept : await (await fetch(pictureAddress(trip, p.id, false))).blob();
        return [{ id: p.id, source: await drawn(blob), caption: p.caption, responseTime: p.response_time }];
      } catch {
        return [];
      }
    };
    void Promise.all(wanted.map(one)).then((all) => over || setRead(all.flat()));
    return () => {
      over = true;
    };
    // The list is made anew at each drawing: what it holds counts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trip, key]);
  return read;
}
