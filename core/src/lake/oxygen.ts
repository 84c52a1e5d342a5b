/**
 * Oxygen at saturation, mg/l.
 * @param celsius water temperature, °C
 * @param altitude metres above sea level (standard atmosphere)
 * @param salinity practical salinity
 * Source: Benson & Krause 1984 as in APHA Standard Methods 4500-O; pressure corrected for water vapour.
 */
export function oxygenSaturation(celsius: number, altitude = 0, salinity = 0): number {
  const t = celsius + 273.15;
  const atSeaLevel = Math.exp(
    -139.34411 +
      1.575701e5 / t -
      6.642308e7 / t ** 2 +
      1.2438e10 / t ** 3 -
      8.621949e11 / t ** 4 -
      salinity * (1.7674e-2 - 10.754 / t + 2140.7 / t ** 2),
  );
  if (altitude === 0) return atSeaLevel;
  const pressure = (1 - 2.25577e-5 * altitude) ** 5.25588;
  const vapour = Math.exp(11.8571 - 3840.7 / t - 216961 / t ** 2);
  const theta = 0.000975 - 1.426e-5 * celsius + 6.436e-8 * celsius ** 2;
  return (atSeaLevel * pressure * (1 - vapour / pressure) * (1 - theta * pressure)) / ((1 - vapour) * (1 - theta));
}
