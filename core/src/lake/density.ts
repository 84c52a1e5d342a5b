/**
 * Density of fresh water, kg/m³.
 * @param celsius water temperature, °C (0–40)
 * Source: Martin & McCutcheon 1999, Hydrodynamics and Transport for Water Quality Modeling.
 */
export function waterDensity(celsius: number): number {
  return 1000 * (1 - ((celsius + 288.9414) * (celsius - 3.9863) ** 2) / (508929.2 * (celsius + 68.12963)));
}
