import { FormatError } from '@restless-shoal/core/formats';
import type { Source } from '../sources';
import { bytesOf } from './features';
import { SAMPLE, type FilePart, type PartRow } from './part';

/** A finer grid is thinned: a chart is no finer, cells. */
const MOST_CELLS = 2_000_000;

/** A GeoTIFF of depths or heights: the middle of each cell, with its value. @throws FormatError when it is none */
export async function gridParts(source: Source): Promise<FilePart[]> {
  try {
    const bytes = await bytesOf(source);
    const { fromArrayBuffer } = await import('geotiff');
    const tiff = await fromArrayBuffer(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
    const image = await tiff.getImage();
    const [width, height] = [image.getWidth(), image.getHeight()];
    const [values] = (await image.readRasters({ samples: [0] })) as unknown as ArrayLike<number>[];
    const [x0, y0] = image.getOrigin();
    const [dx, dy] = image.getResolution();
    const keys = image.getGeoKeys() as { ProjectedCSTypeGeoKey?: number; GeographicTypeGeoKey?: number } | null;
    const projected = keys?.ProjectedCSTypeGeoKey;
    const crs = projected && projected !== 32767 ? projected : (keys?.GeographicTypeGeoKey ?? null);
    const noData = image.getGDALNoData();
    const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / MOST_CELLS)));
    const valued = (v: number): boolean => Number.isFinite(v) && v !== noData && Math.abs(v) < 1e6;
    const row = (i: number, j: number): string[] => [
      String(x0 + (i + 0.5) * dx),
      String(y0 + (j + 0.5) * dy),
      String(Math.round(values[j * width + i] * 1e4) / 1e4),
    ];
    const sample: string[][] = [];
    // From all over the grid: its first rows may hold nothing.
    const every = Math.max(1, Math.floor((width * height) / (SAMPLE * 40)));
    for (let k = 0; k < width * height && sample.length < SAMPLE; k += every)
      if (valued(values[k])) sample.push(row(k % width, Math.floor(k / width)));
    if (!sample.length) throw new Error('it holds no value');
    const degrees = crs === 4326;
    return [
      {
        file: source.name,
        part: 'grid',
        columns: degrees ? ['longitude', 'latitude', 'value'] : ['x', 'y', 'value'],
        sample,
        crs,
        day: source.day ?? null,
        rows: async function* (): AsyncGenerator<PartRow[]> {
          for (let j = 0; j < height; j += step) {
            const rows: PartRow[] = [];
            for (let i = 0; i < width; i += step) if (valued(values[j * width + i])) rows.push({ line: j + 1, fields: row(i, j) });
            if (rows.length) yield await Promise.resolve(rows);
          }
        },
      },
    ];
  } catch (error) {
    throw new FormatError(`${source.name}: is no GeoTIFF that can be read: ${(error as Error).message}`);
  }
}
