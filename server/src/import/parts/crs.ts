import { createRequire } from 'node:module';
import proj4 from 'proj4';
import { metricPlane } from '@restless-shoal/core/geo';

const require = createRequire(import.meta.url);

/**
 * From x and y of a coordinate system to [longitude, latitude] in degrees.
 * @param code EPSG code @returns null for degrees @throws RangeError for a code that is not known
 */
export function toDegreesOf(code: number): ((x: number, y: number) => [number, number]) | null {
  if (code === 4326) return null;
  if ((code > 32600 && code <= 32660) || (code > 32700 && code <= 32760)) {
    const plane = metricPlane(code);
    return (x, y) => {
      const { latitude, longitude } = plane.toLatLon([x, y]);
      return [longitude, latitude];
    };
  }
  let definition: string;
  try {
    definition = (require(`epsg-index/s/${code}.json`) as { proj4: string }).proj4;
  } catch {
    throw new RangeError(`EPSG:${code} is no coordinate system that is known`);
  }
  // Grids of datum shifts are not at hand: the systems that need one are right to a hundred metres or so without.
  const transform = proj4(
    definition.replace(/\+nadgrids=\S+/, (g) => (g.includes('@') ? g : `${GRIDLESS[code] ?? ''}`)),
    'EPSG:4326',
  );
  return (x, y) => transform.forward([x, y]) as [number, number];
}

/** Parameters that stand for a grid of datum shifts, to a few metres, of systems that are in everyday use (EPSG transformation 1777). */
const BESSEL = '+towgs84=598.1,73.7,418.2,0.202,0.045,-2.455,6.7';
const GRIDLESS: Record<number, string> = { 31466: BESSEL, 31467: BESSEL, 31468: BESSEL, 31469: BESSEL, 4314: BESSEL };
