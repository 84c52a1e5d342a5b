/** Reading and writing of people's units at the edge. Inside, everything is SI (m, °C, m/s, radians only where said). */
export {
  type UnitSystem,
  UNIT_CHOICES,
  metric,
  toUnit,
  fromUnit,
  ACRES_PER_HECTARE,
  KG_PER_POUND,
  METRES_PER_FOOT,
  METRES_PER_MILE,
  SPEED_FACTOR,
} from './convert';
export { parseMeasure, MeasureError, type MeasureKind } from './parse';
export { localToUtc, zoneOffset } from './zone';
