const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Width of a conical beam on a flat bottom, m: 2·d·tan(θ/2). @param depth below the transducer, m @param beam full angle, degrees */
export const coneWidth = (depth: number, beam: number): number => 2 * depth * Math.tan(radians(beam / 2));

/**
 * Height of the zone above a flat bottom where fish merge with the bottom echo, m.
 * @param depth m @param beam full angle, degrees @param pulse pulse length, s @param soundSpeed m/s
 * Source: Ona & Mitson 1996.
 */
export const deadZone = (depth: number, beam: number, pulse: number, soundSpeed = 1450): number =>
  depth * (1 / Math.cos(radians(beam / 2)) - 1) + (soundSpeed * pulse) / 2;

/** Horizontal distance of a side-scan target, m. @param range slant range, m @param height transducer over the bottom, m @param above target over the bottom, m */
export function sideScanDistance(range: number, height: number, above = 0): number {
  return Math.sqrt(Math.max(0, range ** 2 - (height - above) ** 2));
}

/** Height over the bottom of a fish whose shadow lies apart, m: H·(1 − Rfish/Rshadow). */
export const heightFromShadow = (height: number, fishRange: number, shadowRange: number): number => height * (1 - fishRange / shadowRange);

/** Height of an object standing on the bottom, m: H·Ls/(R + Ls). */
export const objectHeight = (height: number, range: number, shadowLength: number): number =>
  (height * shadowLength) / (range + shadowLength);
