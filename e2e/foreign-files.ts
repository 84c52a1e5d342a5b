import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import writeXlsx from 'write-excel-file/node';
import { metricPlane, type LatLon } from '@restless-shoal/core/geo';

/** A sounding as it truly was. */
export interface TrueSounding extends LatLon {
  depth: number;
  /** UTC, ms. */
  at: number;
}

/** Over a small water: 40 places on a curve, from 1 to 9 m deep, one a minute from 04:30 UTC on. */
export const TRUE_SOUNDINGS: TrueSounding[] = Array.from({ length: 40 }, (_, k) => ({
  latitude: Number((52.4 + 0.002 * Math.sin(k / 6)).toFixed(6)),
  longitude: Number((13.1 + 0.00012 * k).toFixed(6)),
  depth: Number((5 + 4 * Math.cos(k / 5)).toFixed(2)),
  at: Date.UTC(2024, 4, 31, 4, 30 + k),
}));

/** Deeper there, linear: what a grid and its contour lines are made from. */
export const slopeDepth = ({ longitude }: LatLon): number => 1 + (longitude - 13.095) * 800;

/** What is answered to the assistant's questions. */
export interface Answers {
  unit?: string;
  zone?: string;
  sign?: string;
  level?: string;
  order?: string;
  crs?: string;
}

export interface ForeignFile {
  file: string;
  /** What made it. */
  by: string;
  answers: Answers;
  /** Whether it holds the true soundings, with their times; else the depths of the slope, of the day alone. */
  holds: 'soundings' | 'soundings without time' | 'slope';
  /** How exact its depths can be, m. */
  within?: number;
}

const two = (n: number): string => String(n).padStart(2, '0');
const run = (program: string, ...args: string[]): void => {
  execFileSync(program, args, { stdio: ['ignore', 'ignore', 'pipe'] });
};

/** Writes sixteen files of the kinds that people have into a folder, by other programs where there is one. */
export async function makeForeignFiles(folder: string): Promise<ForeignFile[]> {
  const at = (name: string): string => join(folder, name);
  const rows = TRUE_SOUNDINGS;
  const plane = metricPlane(32633);
  const iso = (s: TrueSounding): string => new Date(s.at).toISOString();
  /** The clock of a zone that is so many hours before UTC. */
  const local = (s: TrueSounding, hours: number): Date => new Date(s.at + hours * 3_600_000);
  const lines = (header: string | null, row: (s: TrueSounding) => string): string =>
    [...(header === null ? [] : [header]), ...rows.map(row)].join('\r\n');
  const out: ForeignFile[] = [];
  const add = (file: string, by: string, answers: Answers, holds: ForeignFile['holds'], within?: number): void => {
    out.push({ file, by, answers, holds, within });
  };

  writeFileSync(at('feet.csv'), lines('Lat,Lon,Depth (ft),Time UTC', (s) => `${s.latitude},${s.longitude},${(s.depth / 0.3048).toFixed(3)},${iso(s).slice(0, 19)}`)); // prettier-ignore
  add('feet.csv', 'text', {}, 'soundings');

  const german = lines('Breite;Länge;Tiefe (m);Datum;Uhrzeit', (s) => {
    const d = local(s, 2);
    const comma = (v: number, digits: number): string => v.toFixed(digits).replace('.', ',');
    return `${comma(s.latitude, 6)};${comma(s.longitude, 6)};-${comma(s.depth, 2)};${two(d.getUTCDate())}.${two(d.getUTCMonth() + 1)}.${d.getUTCFullYear()};${two(d.getUTCHours())}:${two(d.getUTCMinutes())}`;
  });
  writeFileSync(at('seetiefen.csv'), Buffer.from(german, 'latin1'));
  add('seetiefen.csv', 'text, Windows-1252', { zone: 'Europe/Berlin' }, 'soundings');

  const american = lines('longitude,latitude,depth,date,time', (s) => {
    const d = local(s, -5);
    const h = d.getUTCHours() % 12 || 12;
    return `${s.longitude},${s.latitude},${(s.depth / 1.8288).toFixed(4)},${d.getUTCMonth() + 1}/${d.getUTCDate()}/${d.getUTCFullYear()},${h}:${two(d.getUTCMinutes())} ${d.getUTCHours() < 12 ? 'AM' : 'PM'}`;
  });
  writeFileSync(at('fathoms.csv'), american);
  add('fathoms.csv', 'text', { unit: 'fathom', zone: 'America/Chicago' }, 'soundings');

  writeFileSync(
    at('serials.txt'),
    lines('Easting\tNorthing\tDepth_m\tTimestamp', (s) => {
      const [x, y] = plane.toMetric(s);
      return `${x.toFixed(2)}\t${y.toFixed(2)}\t${s.depth}\t${((s.at - Date.UTC(1899, 11, 30)) / 86_400_000).toFixed(8)}`;
    }),
  );
  // The system is told by where the water lies.
  add('serials.txt', 'text', { zone: 'UTC' }, 'soundings');

  writeFileSync(
    at('depths.xyz'),
    lines(null, (s) => `${s.longitude.toFixed(6)} ${s.latitude.toFixed(6)} -${s.depth}`),
  );
  add('depths.xyz', 'text', { unit: 'm' }, 'soundings without time');

  const wide = Buffer.from(
    `\ufeff${lines('Latitude\tLongitude\tDepth m\tTime', (s) => `${s.latitude}\t${s.longitude}\t${s.depth}\t${iso(s)}`)}`,
    'utf16le',
  );
  writeFileSync(at('utf16.tsv'), wide);
  add('utf16.tsv', 'text, UTF-16', {}, 'soundings');

  writeFileSync(at('elevations.csv'), lines('y,x,Elevation (m)', (s) => { const [x, y] = plane.toMetric(s); return `${y.toFixed(2)},${x.toFixed(2)},${(35.5 - s.depth).toFixed(2)}`; })); // prettier-ignore
  add('elevations.csv', 'text', { level: '35.5', crs: '32633' }, 'soundings without time');

  writeFileSync(at('degrees.csv'), lines('Position N;Position E;Depth [m];When', (s) => { const dm = (v: number): string => `${Math.floor(v)}°${((v % 1) * 60).toFixed(5)}'`; return `${dm(s.latitude)}N;${dm(s.longitude)}E;${s.depth} m;${iso(s)}`; }).replace('Position N;Position E', 'Latitude;Longitude')); // prettier-ignore
  add('degrees.csv', 'text', {}, 'soundings');

  const cells = rows.map((s) => [
    { value: s.latitude, type: Number },
    { value: s.longitude, type: Number },
    { value: s.depth, type: Number },
    { value: new Date(s.at), type: Date, format: 'dd.mm.yyyy hh:mm:ss' },
  ]);
  const head = ['Latitude', 'Longitude', 'Depth (m)', 'Time'].map((value) => ({ value, type: String }));
  const book = (await writeXlsx([head, ...cells] as never, { buffer: true } as never)) as unknown as
    Buffer | { toBuffer(): Promise<Buffer> };
  writeFileSync(at('survey.xlsx'), Buffer.isBuffer(book) ? book : await book.toBuffer());
  add('survey.xlsx', 'write-excel-file', { zone: 'UTC' }, 'soundings');

  // What other programs make their files from.
  writeFileSync(
    at('points.csv'),
    lines('lon,lat,depth_m,seen', (s) => `${s.longitude},${s.latitude},${s.depth},${iso(s)}`),
  );
  writeFileSync(
    at('points.vrt'),
    `<OGRVRTDataSource><OGRVRTLayer name="points"><SrcDataSource>${at('points.csv')}</SrcDataSource><GeometryType>wkbPoint</GeometryType><LayerSRS>EPSG:4326</LayerSRS><GeometryField encoding="PointFromColumns" x="lon" y="lat"/><Field name="depth_m" type="Real"/><Field name="when" src="seen" type="String"/></OGRVRTLayer></OGRVRTDataSource>`,
  );
  run('ogr2ogr', '-f', 'ODS', at('survey.ods'), at('points.csv'));
  add('survey.ods', 'ogr2ogr', {}, 'soundings');

  run('ogr2ogr', '-f', 'KML', at('points.kml'), at('points.vrt'));
  add('points.kml', 'ogr2ogr', {}, 'soundings');

  run('ogr2ogr', '-t_srs', 'EPSG:32633', at('soundings_utm.shp'), at('points.vrt'), '-lco', 'ENCODING=UTF-8');
  const zipOf = (stem: string): void => {
    const parts = ['shp', 'shx', 'dbf', 'prj', 'cpg'].map((e) => `${stem}.${e}`);
    writeFileSync(at(`${stem}.zip`), zipSync(Object.fromEntries(parts.map((p) => [p, new Uint8Array(readFileSync(at(p)))]))));
    parts.forEach((p) => rmSync(at(p)));
  };
  zipOf('soundings_utm');
  add('soundings_utm.zip', 'ogr2ogr, a zipped shapefile in UTM', {}, 'soundings');

  // A track as a plotter keeps it, under a name that our own export has, too.
  writeFileSync(
    at('track.csv'),
    lines('lon,lat,depth_m,time,track_fid,track_seg_id', (s) => `${s.longitude},${s.latitude},${s.depth},${iso(s)},0,0`),
  );
  writeFileSync(
    at('track.vrt'),
    `<OGRVRTDataSource><OGRVRTLayer name="track_points"><SrcDataSource>${at('track.csv')}</SrcDataSource><SrcLayer>track</SrcLayer><GeometryType>wkbPoint</GeometryType><LayerSRS>EPSG:4326</LayerSRS><GeometryField encoding="PointFromColumns" x="lon" y="lat"/><Field name="depth_m" type="Real"/><Field name="time" type="DateTime"/><Field name="track_fid" type="Integer"/><Field name="track_seg_id" type="Integer"/></OGRVRTLayer></OGRVRTDataSource>`,
  );
  run('ogr2ogr', '-f', 'GPX', '-dsco', 'GPX_USE_EXTENSIONS=YES', at('marks.gpx'), at('track.vrt'));
  add('marks.gpx', 'ogr2ogr', {}, 'soundings');

  // A grid of the slope, and contour lines of it.
  const [west, north, side, columns, lanes] = [13.095, 52.404, 0.0001, 120, 70];
  writeFileSync(
    at('slope.asc'),
    `ncols ${columns}\nnrows ${lanes}\nxllcorner ${west}\nyllcorner ${(north - lanes * side).toFixed(6)}\ncellsize ${side}\nNODATA_value -9999\n` +
      Array.from({ length: lanes }, (_, j) => Array.from({ length: columns }, (_, i) => (j === 0 && i < 3 ? -9999 : (-slopeDepth({ latitude: 0, longitude: west + (i + 0.5) * side })).toFixed(3))).join(' ')).join('\n'), // prettier-ignore
  );
  run('gdal_translate', '-q', '-of', 'GTiff', '-a_srs', 'EPSG:4326', at('slope.asc'), at('grid.tif'));
  add('grid.tif', 'gdal_translate', { unit: 'm' }, 'slope', 0.01);
  run('gdal_contour', '-q', '-a', 'DEPTH', '-i', '1', '-f', 'GeoJSON', at('grid.tif'), at('contours.geojson'));
  add('contours.geojson', 'gdal_contour', { unit: 'm' }, 'slope', 0.02);
  run('gdal_contour', '-q', '-a', 'DEPTH', '-i', '1', at('grid.tif'), at('isobaths.shp'));
  run('ogr2ogr', '-f', 'LIBKML', at('isobaths.kmz'), at('isobaths.shp'));
  ['shp', 'shx', 'dbf', 'prj'].forEach((e) => rmSync(at(`isobaths.${e}`)));
  add('isobaths.kmz', 'ogr2ogr', { unit: 'm' }, 'slope', 0.02);
  for (const made of ['points.csv', 'points.vrt', 'track.csv', 'track.vrt', 'slope.asc']) rmSync(at(made));
  return out;
}
