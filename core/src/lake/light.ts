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

/** Height of the sun above the horizon, degrees. */
export const sunHeight = (at: Date, latitude: number, longitude: number): number => getPosition(at, latitude, longitude).altitude;
