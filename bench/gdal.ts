import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fromFile } from 'geotiff';
import { Raster } from '@restless-shoal/core/geo';
import { timed } from './support';

/** Points for gdal_grid, as a CSV with the small file that says what its columns are. */
export function gdalPoints(folder: string, name: string, x: ArrayLike<number>, y: ArrayLike<number>, z: ArrayLike<number>): string {
  const lines = new Array<string>(x.length + 1);
  lines[0] = 'x,y,z';
  for (let i = 0; i < x.length; i++) lines[i + 1] = `${x[i].toFixed(2)},${y[i].toFixed(2)},${z[i].toFixed(3)}`;
  writeFileSync(join(folder, `${name}.csv`), lines.join('\n') + '\n');
  const vrt = join(folder, `${name}.vrt`);
  writeFileSync(
    vrt,
    `<OGRVRTDataSource><OGRVRTLayer name="${name}"><SrcDataSource>${join(folder, `${name}.csv`)}</SrcDataSource><GeometryType>wkbPoint</GeometryType><GeometryField encoding="PointFromColumns" x="x" y="y" z="z"/></OGRVRTLayer></OGRVRTDataSource>`,
  );
  return vrt;
}

export interface GridFrame {
  x0: number;
  y0: number;
  size: number;
  width: number;
  height: number;
}

/** Grids points with GDAL. @returns seconds */
export function gdalGrid(method: string, vrt: string, name: string, { x0, y0, size, width, height }: GridFrame, out: string): number {
  const extent = ['-txe', `${x0}`, `${x0 + width * size}`, '-tye', `${y0}`, `${y0 + height * size}`, '-outsize', `${width}`, `${height}`];
  return timed('gdal_grid', ['-q', '-a', method, '-ot', 'Float32', ...extent, '-l', name, vrt, out]);
}

/** A GeoTIFF of GDAL's as a raster with row 0 in the south. */
export async function readGrid(file: string, frame: GridFrame, noData: number): Promise<Raster> {
  const image = await (await fromFile(file)).getImage();
  const [data] = (await image.readRasters()) as unknown as [Float32Array];
  const raster = new Raster(frame.x0, frame.y0, frame.size, frame.width, frame.height);
  // gdal_grid writes rows as -tye goes: from the south up, and says so by a positive height of a pixel.
  const southFirst = image.getFileDirectory().getValue?.('ModelPixelScale') === undefined;
  for (let j = 0; j < frame.height; j++)
    for (let i = 0; i < frame.width; i++) {
      const v = data[(southFirst ? j : frame.height - 1 - j) * frame.width + i];
      raster.data[j * frame.width + i] = v === noData || Number.isNaN(v) ? NaN : v;
    }
  return raster;
}
