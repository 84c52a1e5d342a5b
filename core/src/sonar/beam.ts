const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Width of a conical beam on a flat bottom, m: 2·d·tan(θ/2). @param depth below the transducer, m @param beam full angle, degrees */
export const coneWidth = (depth: number, beam: number): number => 2 * depth * Math.tan(radians(beam / 2));

/** Horizontal distance of a side-scan target, m. @param range slant range, m @param height transducer over the bottom, m @param above target over the bottom, m */
export function sideScanDistance(range: number, height: number, above = 0): number {
  return Math.sqrt(Math.max(0, range ** 2 - (height - above) ** 2));
}

/** The first echo of the bottom fills so much of a side-scan's range, m: what lies under it is not told apart. */
const FIRST_ECHO = 0.1;

/**
 * The strip of ground that a side-scan sees to each side of the boat's line, m: as far as its slant range reaches, √(R² − H²),
 * without what the first echo of the bottom hides under the boat, √((H + e)² − H²).
 * @param range slant range, m @param height transducer over the bottom, m; 0 where nobody knows: ranges are taken as they are
 */
export const sideScanStrip = (range: number, height: number): { near: number; far: number } => ({
  near: height ? sideScanDistance(height + FIRST_ECHO, height) : 0,
  far: sideScanDistance(range, height),
});

/** Height over the bottom of a fish whose shadow lies apart, m: H·(1 − Rfish/Rshadow). */
export const heightFromShadow = (height: number, fishRange: number, shadowRange: number): number => height * (1 - fishRange / shadowRange);

/** Height of an object standing on the bottom, m: H·Ls/(R + Ls). */
export const objectHeight = (height: number, range: number, shadowLength: number): number =>
  (height * shadowLength) / (range + shadowLength);

/** Slant range to a target, m. @param horizontal m @param below metres below the transducer */
export const slantRange = (horizontal: number, below: number): number => Math.hypot(horizontal, below);

/** Length of the shadow that an object standing on the bottom throws, along the slant range, m: R·h/(H − h); endless from the transducer's own height on. @param tall height of the object, m */
export const shadowLength = (height: number, range: number, tall: number): number =>
  tall >= height ? Infinity : (range * tall) / (height - tall);

/** How far a towed transducer follows behind the stern, m: √(cable² − depth²). */
export const layback = (cable: number, depth: number): number => Math.sqrt(Math.max(0, cable ** 2 - depth ** 2));

/** How far the boat has gone on since a picture was written, m. @param speed m/s @param delay seconds on the screen */
export const screenDelayDistance = (speed: number, delay: number): number => speed * delay;

/** Range at which a target is drawn while the boat passes over it, m: √(d² + (v·t)²). @param below metres below the transducer @param seconds before (−) or after (+) it is straight below */
export const archRange = (below: number, speed: number, seconds: number): number => Math.hypot(below, speed * seconds);

/** How long a resting target straight under the course stays in the cone, s: 2·d·tan(θ/2)/v. */
export const timeInCone = (below: number, beam: number, speed: number): number => coneWidth(below, beam) / speed;

/** The most pings a second that do not overlap: c/(2R). @param range of the view, m @param soundSpeed m/s */
export const fastestPings = (range: number, soundSpeed = 1450): number => soundSpeed / (2 * range);

/** Pings that meet a target as the boat passes: (L + beam width along the track)·f/v. @param length of the target along the track, m @param width of the beam there, m @param rate pings a second @param speed m/s */
export const pingsOnTarget = (length: number, width: number, rate: number, speed: number): number => ((length + width) * rate) / speed;

/** Target strength of a fish seen from above, dB. @param length m @param frequency kHz. Source: Love 1977, 19.1·log10(Lcm) − 0.9·log10(kHz) − 62.0. */
export const targetStrength = (length: number, frequency = 200): number =>
  19.1 * Math.log10(length * 100) - 0.9 * Math.log10(frequency) - 62;
