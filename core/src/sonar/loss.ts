import { targetStrength } from './beam';

/** Salinity taken for sea water where nobody measured it, practical. */
export const SEA_SALINITY = 35;
/** Acidity of sea water: what boric acid takes depends on it. */
const SEA_PH = 8;

/**
 * Absorption of sound, dB/m: viscosity, in salt water also boric acid and magnesium sulphate, which relax.
 * @param frequency kHz @param t °C @param depth m @param salinity practical; 0: fresh water
 * Source: Francois & Garrison 1982, part II.
 */
export function absorption(frequency: number, t: number, depth = 0, salinity = 0): number {
  const a = t <= 20 ? 4.937e-4 + t * (-2.59e-5 + t * (9.11e-7 + t * -1.5e-8)) : 3.964e-4 + t * (-1.146e-5 + t * (1.45e-7 + t * -6.5e-10));
  const pressure = 1 - 3.83e-5 * depth + 4.9e-10 * depth ** 2;
  const water = (a * pressure * frequency ** 2) / 1000;
  if (salinity <= 0) return water;
  const c = 1412 + 3.21 * t + 1.19 * salinity + 0.0167 * depth;
  const kelvin = 273 + t;
  const relaxes = (strength: number, own: number): number => (strength * own * frequency ** 2) / (frequency ** 2 + own ** 2) / 1000;
  const boric = relaxes((8.86 / c) * 10 ** (0.78 * SEA_PH - 5), 2.8 * Math.sqrt(salinity / 35) * 10 ** (4 - 1245 / kelvin));
  const sulphate = relaxes(
    21.44 * (salinity / c) * (1 + 0.025 * t) * (1 - 1.37e-4 * depth + 6.2e-9 * depth ** 2),
    (8.17 * 10 ** (8 - 1990 / kelvin)) / (1 + 0.0018 * (salinity - 35)),
  );
  return water + boric + sulphate;
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

/** The farthest range at which a fish is seen, m. @param length m @param frequency kHz @param t °C @param least as `farthestSeen` @param salinity practical */
export const farthestFish = (length: number, frequency: number, t: number, least: number, salinity = 0): number =>
  farthestSeen(targetStrength(length, frequency), least, absorption(frequency, t, 0, salinity));

/** How far apart two targets one behind the other have to lie to show as two, m: cτ/2 of a pulse of one frequency, c/(2B) of one that sweeps. */
export const separation = (pulse: { length: number } | { bandwidth: number }, soundSpeed = 1450): number =>
  'length' in pulse ? (soundSpeed * pulse.length) / 2 : soundSpeed / (2 * pulse.bandwidth);
