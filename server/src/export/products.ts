import type { Feature, Geometry } from 'geojson';
import { contourLines, type Chart } from '@restless-shoal/core/chart';
import { gpxOf, type GpxPlace } from '@restless-shoal/core/formats';
import { metricPlane, type Point, type Raster } from '@restless-shoal/core/geo';
import type { Contact, CoverFeature } from '@restless-shoal/core/logbook';

const NO_DATA = -9999;
const WARNING = 'Made by its owner. Not for navigation.';

/** A raster as a GeoTIFF: float32, north up, in the water's UTM zone with its EPSG code. */
export async function geoTiff(raster: Raster, epsg: number, what: string): Promise<Buffer> {
  const { width, height, size, x0, y0, data } = raster;
  const values = new Float32Array(data.length);
  // Rasters start in the south, pictures in the north.
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const v = data[j * width + i];
      values[(height - 1 - j) * width + i] = Number.isNaN(v) ? NO_DATA : v;
    }
  const { writeArrayBuffer } = await import('geotiff');
  const bytes = await writeArrayBuffer(values, {
    width,
    height,
    ModelPixelScale: [size, size, 0],
    ModelTiepoint: [0, 0, 0, x0, y0 + height * size, 0],
    GTModelTypeGeoKey: 1,
    GTRasterTypeGeoKey: 1,
    ProjectedCSTypeGeoKey: epsg,
    GDAL_NODATA: String(NO_DATA),
    SampleFormat: [3],
    BitsPerSample: [32],
    // The writer knows this field; its types leave it out.
    ...({ ImageDescription: `${what}. ${WARNING}` } as object),
  });
  return Buffer.from(bytes);
}

const collection = (features: Feature[]): string => JSON.stringify({ type: 'FeatureCollection', note: WARNING, features }) + '\n';

/** Positions of points of the plane, longitude first, to about a centimetre. */
function positionsOf(epsg: number): (points: Point[]) => number[][] {
  const plane = metricPlane(epsg);
  return (points) =>
    points.map((p) => {
      const { latitude, longitude } = plane.toLatLon(p);
      return [Number(longitude.toFixed(7)), Number(latitude.toFixed(7))];
    });
}

export function contoursGeoJson(chart: Chart): string {
  const positions = positionsOf(chart.epsg);
  return collection(
    contourLines(chart.depth).map(({ depth, points }) => ({
      type: 'Feature',
      properties: { kind: 'contour', depth },
      geometry: { type: 'LineString', coordinates: positions(points) },
    })),
  );
}

export function featuresGeoJson(chart: Chart): string {
  const positions = positionsOf(chart.epsg);
  return collection(
    chart.features.map((f) => {
      const [[longitude, latitude]] = positions([[f.x, f.y]]);
      const geometry: Geometry =
        f.edge.type === 'line'
          ? { type: 'LineString', coordinates: positions(f.edge.points) }
          : { type: 'Polygon', coordinates: [positions([...f.edge.ring, f.edge.ring[0]])] };
      return {
        type: 'Feature',
        properties: {
          kind: f.kind,
          depth: f.depth,
          size: f.size,
          confidence: f.confidence,
          rise: f.rise,
          sharpness: f.sharpness,
          latitude,
          longitude,
        },
        geometry,
      };
    }),
  );
}

export const outlineGeoJson = (name: string, outline: Geometry): string =>
  collection([{ type: 'Feature', properties: { name }, geometry: outline }]);

export const coverGeoJson = (cover: CoverFeature[]): string =>
  collection(
    cover.map(({ kind, cover: what, name, height_m, speed_limit_ms, placed_on, source, within_m, geometry }) => ({
      type: 'Feature',
      properties: {
        kind,
        cover: what,
        ...(name != null && { name }),
        ...(height_m != null && { height_m }),
        ...(speed_limit_ms != null && { speed_limit_ms }),
        ...(placed_on != null && { placed_on }),
        ...(source != null && { source }),
        ...(within_m != null && { within_m }),
      },
      geometry,
    })),
  );

/** Marks and cover as waypoints, for a plotter. */
export function marksGpx(name: string, contacts: Contact[], cover: CoverFeature[]): string {
  const places: GpxPlace[] = contacts.map((c) => ({
    latitude: c.latitude,
    longitude: c.longitude,
    name: [c.kind, c.species, c.time.slice(0, 10)].filter(Boolean).join(' '),
    type: c.kind,
    depth: c.top_m ?? c.water_depth_m,
    time: c.time,
    words: c.notes ?? '',
  }));
  for (const { kind, cover: what, name: called, source, within_m, geometry } of cover)
    if (geometry.type === 'Point')
      places.push({
        latitude: geometry.coordinates[1],
        longitude: geometry.coordinates[0],
        name: called ?? what ?? kind,
        type: kind,
        depth: null,
        words: source ? [`From ${source}`, within_m && `good to ${Math.round(within_m)} m`].filter(Boolean).join(', ') : '',
      });
  return gpxOf(name, places);
}
