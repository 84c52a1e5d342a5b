/** Speed of sound in fresh water, m/s, at °C. Source: Marczak 1997 (0–95 °C, at atmospheric pressure). */
export const soundSpeed = (t: number): number =>
  1402.385 + t * (5.038813 + t * (-5.799136e-2 + t * (3.287156e-4 + t * (-1.398845e-6 + t * 2.78786e-9))));

/**
 * Speed of sound in sea water, m/s. @param t °C @param salinity g/kg @param depth m
 * Source: Medwin 1975 (0–35 °C, 0–45 g/kg, to 1000 m).
 */
export const seaSoundSpeed = (t: number, salinity = 35, depth = 0): number =>
  1449.2 + 4.6 * t - 0.055 * t ** 2 + 0.00029 * t ** 3 + (1.34 - 0.01 * t) * (salinity - 35) + 0.016 * depth;
