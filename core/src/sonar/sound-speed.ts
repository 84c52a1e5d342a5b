/** Speed of sound in fresh water, m/s, at °C. Source: Marczak 1997 (0–95 °C, at atmospheric pressure). */
export const soundSpeed = (t: number): number =>
  1402.385 + t * (5.038813 + t * (-5.799136e-2 + t * (3.287156e-4 + t * (-1.398845e-6 + t * 2.78786e-9))));

/** Pressure of a metre of sea water, bar. */
const BAR_PER_METRE = 0.10055;

/**
 * Speed of sound in sea water, m/s. @param t °C, 0–40 @param salinity practical, 0–40 @param depth m
 * Source: Chen & Millero 1977 as in UNESCO technical papers in marine science 44 (1983).
 */
export function seaSoundSpeed(t: number, salinity = 35, depth = 0): number {
  const p = depth * BAR_PER_METRE;
  const pure =
    1402.388 +
    t * (5.03711 + t * (-5.80852e-2 + t * (3.342e-4 + t * (-1.478e-6 + t * 3.1464e-9)))) +
    (0.153563 + t * (6.8982e-4 + t * (-8.1788e-6 + t * (1.3621e-7 - t * 6.1185e-10)))) * p +
    (3.126e-5 + t * (-1.7107e-6 + t * (2.5974e-8 + t * (-2.5335e-10 + t * 1.0405e-12)))) * p ** 2 +
    (-9.7729e-9 + t * (3.8504e-10 - t * 2.3643e-12)) * p ** 3;
  const a =
    1.389 +
    t * (-1.262e-2 + t * (7.164e-5 + t * (2.006e-6 - t * 3.21e-8))) +
    (9.4742e-5 + t * (-1.258e-5 + t * (-6.4885e-8 + t * (1.0507e-8 - t * 2.0122e-10)))) * p +
    (-3.9064e-7 + t * (9.1041e-9 + t * (-1.6002e-10 + t * 7.988e-12))) * p ** 2 +
    (1.1e-10 + t * (6.649e-12 - t * 3.389e-13)) * p ** 3;
  const b = -1.922e-2 - 4.42e-5 * t + (7.3637e-5 + 1.7945e-7 * t) * p;
  const d = 1.727e-3 - 7.9836e-6 * p;
  return pure + a * salinity + b * salinity ** 1.5 + d * salinity ** 2;
}

/** Speed of sound near the surface, m/s. @param t °C, held within what the formulas are for @param salinity practical; 0: fresh water */
export const soundSpeedIn = (t: number, salinity: number): number =>
  salinity > 0 ? seaSoundSpeed(Math.min(40, Math.max(0, t)), salinity) : soundSpeed(Math.min(95, Math.max(0, t)));
