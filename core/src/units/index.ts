/** Reading and writing of people's units at the edge. Inside, everything is SI (m, °C, m/s, radians only where said). */
export { formatDepth, formatTemperature, formatSpeed, formatLength, depthUnit, type UnitSystem, metric } from './format';
export { parseMeasure, MeasureError, type MeasureKind } from './parse';
