/** A position in decimal degrees, WGS 84. */
export interface LatLon {
  latitude: number;
  longitude: number;
}

const EARTH_RADIUS = 6371008.8;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;
const degrees = (rad: number): number => (rad * 180) / Math.PI;

/** Great-circle distance in metres (haversine, mean earth radius 6371.0088 km); good to 0.5 %. */
export function distance(a: LatLon, b: LatLon): number {
  const dLat = radians(b.latitude - a.latitude);
  const dLon = radians(b.longitude - a.longitude);
  const h = Math.sin(dLat / 2) ** 2 + Math.cos(radians(a.latitude)) * Math.cos(radians(b.latitude)) * Math.sin(dLon / 2) ** 2;
  return 2 * EARTH_RADIUS * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** Initial bearing from a to b, degrees clockwise from true north, 0–360. */
export function bearing(a: LatLon, b: LatLon): number {
  const dLon = radians(b.longitude - a.longitude);
  const y = Math.sin(dLon) * Math.cos(radians(b.latitude));
  const x =
    Math.cos(radians(a.latitude)) * Math.sin(radians(b.latitude)) -
    Math.sin(radians(a.latitude)) * Math.cos(radians(b.latitude)) * Math.cos(dLon);
  return (degrees(Math.atan2(y, x)) + 360) % 360;
}

/** The position reached from `from` after `metres` on a bearing (degrees true). */
export function destination(from: LatLon, bearingDegrees: number, metres: number): LatLon {
  const d = metres / EARTH_RADIUS;
  const t = radians(bearingDegrees);
  const lat1 = radians(from.latitude);
  const lat2 = Math.asin(Math.sin(lat1) * Math.cos(d) + Math.cos(lat1) * Math.sin(d) * Math.cos(t));
  const lon2 =
    radians(from.longitude) + Math.atan2(Math.sin(t) * Math.sin(d) * Math.cos(lat1), Math.cos(d) - Math.sin(lat1) * Math.sin(lat2));
  return { latitude: degrees(lat2), longitude: ((degrees(lon2) + 540) % 360) - 180 };
}
