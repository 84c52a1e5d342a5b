/** What a person reads. `depth` also rules distances and lengths, areas (ha or acres) and masses (kg, or lb and oz). */
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
export const METRES_PER_MILE = 1609.344;
export const ACRES_PER_HECTARE = 2.4710538;
export const KG_PER_POUND = 0.45359237;
export const SPEED_FACTOR = { 'm/s': 1, 'km/h': 3.6, kn: 1.943844, mph: 2.236936 } as const;

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
