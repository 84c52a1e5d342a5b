/** Reading and writing of people's units at the edge. Inside, everything is SI (m, °C, m/s, radians only where said). */
export {
  formatDepth,
  formatTemperature,
  formatSpeed,
  formatLength,
  type UnitSystem,
  UNIT_CHOICES,
  metric,
  stepText,
  toUnit,
  fromUnit,
} from './format';
export { parseMeasure, MeasureError, type MeasureKind } from './parse';
export { numbersIn, sayIn, unitIn } from './say';
export { localToUtc, zoneOffset } from './zone';
