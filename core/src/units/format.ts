/** What a person reads. `depth` also rules distances and lengths. */
export interface UnitSystem {
  depth: 'm' | 'ft';
  temperature: '°C' | '°F';
  speed: 'm/s' | 'km/h' | 'kn' | 'mph';
}

/** What a person may choose, SI first. */
export const UNIT_CHOICES: { [K in keyof UnitSystem]: readonly UnitSystem[K][] } = {
  depth: ['m', 'ft'],
  temperature: ['°C', '°F'],
  speed: ['m/s', 'km/h', 'kn', 'mph'],
};

export const metric: UnitSystem = { depth: 'm', temperature: '°C', speed: 'm/s' };

export const METRES_PER_FOOT = 0.3048;
export const SPEED_FACTOR = { 'm/s': 1, 'km/h': 3.6, kn: 1.943844, mph: 2.236936 } as const;

/** A depth in metres as text with its unit: one decimal in metres, whole feet below 10 ft with one decimal. */
export function formatDepth(metres: number, units: UnitSystem = metric, withUnit = true): string {
  const value = units.depth === 'm' ? metres : metres / METRES_PER_FOOT;
  const digits = units.depth === 'm' || Math.abs(value) < 10 ? 1 : 0;
  return value.toFixed(digits) + (withUnit ? ` ${units.depth}` : '');
}

/** A horizontal distance in metres: whole metres or feet, kilometres from 1 km on. */
export function formatLength(metres: number, units: UnitSystem = metric): string {
  if (units.depth === 'ft') return `${Math.round(metres / METRES_PER_FOOT)} ft`;
  return metres >= 1000 ? `${(metres / 1000).toFixed(1)} km` : `${metres < 10 ? metres.toFixed(1) : Math.round(metres)} m`;
}

/** A temperature in °C as text in the reader's unit, one decimal. */
export function formatTemperature(celsius: number, units: UnitSystem = metric): string {
  const value = units.temperature === '°C' ? celsius : celsius * 1.8 + 32;
  return `${value.toFixed(1)} ${units.temperature}`;
}

/** A speed in m/s as text in the reader's unit. */
export function formatSpeed(metresPerSecond: number, units: UnitSystem = metric): string {
  const value = metresPerSecond * SPEED_FACTOR[units.speed];
  return `${value < 10 ? value.toFixed(1).replace(/\.0$/, '') : Math.round(value)} ${units.speed}`;
}

/** A difference of temperatures in °C as a number in the reader's unit, one decimal, without the unit. */
export const stepText = (celsius: number, units: UnitSystem = metric): string =>
  (units.temperature === '°C' ? celsius : celsius * 1.8).toFixed(1);

/** An SI value in the reader's unit of its kind, and back: for fields and sliders. */
export const toUnit = (value: number, kind: keyof UnitSystem, units: UnitSystem): number =>
  kind === 'depth'
    ? value / (units.depth === 'm' ? 1 : METRES_PER_FOOT)
    : kind === 'speed'
      ? value * SPEED_FACTOR[units.speed]
      : units.temperature === '°C'
        ? value
        : value * 1.8 + 32;
export const fromUnit = (value: number, kind: keyof UnitSystem, units: UnitSystem): number =>
  kind === 'depth'
    ? value * (units.depth === 'm' ? 1 : METRES_PER_FOOT)
    : kind === 'speed'
      ? value / SPEED_FACTOR[units.speed]
      : units.temperature === '°C'
        ? value
        : (value - 32) / 1.8;
