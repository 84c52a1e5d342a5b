/**
 * Density of sea water at the surface, kg/m³ (EOS-80). @param celsius −2 to 40 °C @param salinity practical, 0–42
 * Source: Millero & Poisson 1981; UNESCO technical papers in marine science 44 (1983).
 * @example seaWaterDensity(5, 35) // 1027.67547
 */
export function seaWaterDensity(celsius: number, salinity: number): number {
  const t = celsius;
  const pure = 999.842594 + t * (6.793952e-2 + t * (-9.09529e-3 + t * (1.001685e-4 + t * (-1.120083e-6 + t * 6.536332e-9))));
  const a = 0.824493 + t * (-4.0899e-3 + t * (7.6438e-5 + t * (-8.2467e-7 + t * 5.3875e-9)));
  const b = -5.72466e-3 + t * (1.0227e-4 - t * 1.6546e-6);
  return pure + a * salinity + b * salinity ** 1.5 + 4.8314e-4 * salinity ** 2;
}
