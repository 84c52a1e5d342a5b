import { getPosition } from 'suncalc';

/**
 * Attenuation of light, 1/m, from the Secchi depth.
 * @param secchi Secchi depth, m (> 0)
 * @param k 1.7 in most water, about 1.4 where it is turbid
 * Source: Poole & Atkins 1929.
 */
export const attenuation = (secchi: number, k = 1.7): number => k / secchi;

/** Share of the surface light left at a depth (Beer–Lambert). @param depth m @param secchi m */
export const lightAt = (depth: number, secchi: number, k = 1.7): number => Math.exp(-attenuation(secchi, k) * depth);

/** Depth where 1 % of the surface light is left, m. */
export const onePercentDepth = (secchi: number, k = 1.7): number => Math.log(100) / attenuation(secchi, k);

/** A sun this high, degrees, sends the full light. */
const SUN_HIGH = 30;

/**
 * Light at a depth as a share of what a high sun sends through a clear sky: less under a low sun, under cloud (1 − 0.75·C^3.4) and
 * with depth. Source of the cloud's part: Kasten & Czeplak 1980, Solar Energy 24.
 * @param sun height, degrees @param cloud share of the sky, 0–1 @param secchi m @param depth m
 */
export const lightAtDepth = (sun: number, cloud: number, secchi: number, depth: number): number =>
  sun <= 0 ? 0 : Math.min(1, sun / SUN_HIGH) * (1 - 0.75 * cloud ** 3.4) * lightAt(depth, secchi);

/** Height of the sun above the horizon, degrees. */
export const sunHeight = (at: Date, latitude: number, longitude: number): number => getPosition(at, latitude, longitude).altitude;

/** Where the sun stands: height above the horizon and direction from true north, degrees. */
export interface SunPlace {
  height: number;
  azimuth: number;
}

export function sunPlace(at: Date, latitude: number, longitude: number): SunPlace {
  const { altitude, azimuth } = getPosition(at, latitude, longitude);
  return { height: altitude, azimuth };
}
