import { targetStrength } from './beam';

/**
 * Absorption of sound in fresh water, dB/m: viscosity alone, as no salts relax in it.
 * @param frequency kHz @param t °C @param depth m
 * Source: Francois & Garrison 1982, part II, the term of pure water.
 */
export function absorption(frequency: number, t: number, depth = 0): number {
  const a = t <= 20 ? 4.937e-4 + t * (-2.59e-5 + t * (9.11e-7 + t * -1.5e-8)) : 3.964e-4 + t * (-1.146e-5 + t * (1.45e-7 + t * -6.5e-10));
  const pressure = 1 - 3.83e-5 * depth + 4.9e-10 * depth ** 2;
  return (a * pressure * frequency ** 2) / 1000;
}

/** Loss of an echo there and back, dB: spreading 40·log10 R and absorption 2·α·R. @param range m, at least 1 @param loss dB/m */
export const echoLoss = (range: number, loss: number): number => 40 * Math.log10(Math.max(1, range)) + 2 * loss * range;

/**
 * The farthest range at which a target still stands out of the noise, m: where its strength less the loss falls to what the tuned rig
 * can see.
 * @param strength of the target, dB @param least weakest echo at 1 m that the rig shows, dB @param loss dB/m
 */
export function farthestSeen(strength: number, least: number, loss: number): number {
  if (strength < least) return 0;
  let [near, far] = [1, 10_000];
  for (let k = 0; k < 60; k++) {
    const middle = (near + far) / 2;
    if (strength - echoLoss(middle, loss) > least) near = middle;
    else far = middle;
  }
  return near;
}

/** The farthest range at which a fish is seen, m. @param length m @param frequency kHz @param t °C @param least as `farthestSeen` */
export const farthestFish = (length: number, frequency: number, t: number, least: number): number =>
  farthestSeen(targetStrength(length, frequency), least, absorption(frequency, t));

/** How far apart two targets one behind the other have to lie to show as two, m: cτ/2 of a pulse of one frequency, c/(2B) of one that sweeps. */
export const separation = (pulse: { length: number } | { bandwidth: number }, soundSpeed = 1450): number =>
  'length' in pulse ? (soundSpeed * pulse.length) / 2 : soundSpeed / (2 * pulse.bandwidth);
