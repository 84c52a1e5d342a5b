import {
  ACRES_PER_HECTARE,
  KG_PER_POUND,
  METRES_PER_FOOT,
  METRES_PER_MILE,
  SPEED_FACTOR,
  type UnitSystem,
} from '@restless-shoal/core/units';
import { locale, readerUnits } from './reader';

const formats = new Map<string, Intl.NumberFormat>();

/** A number with so many decimals, as the reader's language writes it. */
export function decimal(value: number, digits = 0): string {
  const key = `${locale()} ${digits}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.NumberFormat(locale(), { minimumFractionDigits: digits, maximumFractionDigits: digits, useGrouping: false });
    formats.set(key, format);
  }
  return format.format(value);
}

/** A number without the zeros behind its decimals. */
export const plain = (value: number, digits: number): string =>
  decimal(value, Math.min(digits, String(Number(value.toFixed(digits))).split('.')[1]?.length ?? 0));

/** A depth in metres as text: one decimal in metres and below 10 ft, else whole feet. */
export function formatDepth(metres: number, units: UnitSystem = readerUnits(), withUnit = true): string {
  const value = units.depth === 'm' ? metres : metres / METRES_PER_FOOT;
  return decimal(value, units.depth === 'm' || Math.abs(value) < 10 ? 1 : 0) + (withUnit ? ` ${units.depth}` : '');
}

/** A horizontal distance in metres: whole metres or feet; kilometres from 1 km, miles from half a mile on. */
export function formatLength(metres: number, units: UnitSystem = readerUnits()): string {
  if (units.depth === 'ft')
    return metres >= METRES_PER_MILE / 2 ? `${decimal(metres / METRES_PER_MILE, 1)} mi` : `${decimal(metres / METRES_PER_FOOT)} ft`;
  return metres >= 1000 ? `${decimal(metres / 1000, 1)} km` : `${decimal(metres, metres < 10 && metres % 1 ? 1 : 0)} m`;
}

/** A temperature in °C as text, one decimal. */
export const formatTemperature = (celsius: number, units: UnitSystem = readerUnits()): string =>
  `${decimal(units.temperature === '°C' ? celsius : celsius * 1.8 + 32, 1)} ${units.temperature}`;

/** A difference of temperatures in °C as a number, one decimal, without the unit. */
export const stepText = (celsius: number, units: UnitSystem = readerUnits()): string =>
  decimal(units.temperature === '°C' ? celsius : celsius * 1.8, 1);

/** A speed in m/s as text. */
export function formatSpeed(metresPerSecond: number, units: UnitSystem = readerUnits()): string {
  const value = metresPerSecond * SPEED_FACTOR[units.speed];
  return `${value < 10 ? plain(value, 1) : decimal(value)} ${units.speed}`;
}

/** An area in m² as text: hectares or acres, a decimal below ten of them. */
export function formatArea(squareMetres: number, units: UnitSystem = readerUnits()): string {
  const hectares = squareMetres / 10_000;
  const [value, unit] = units.depth === 'm' ? [hectares, 'ha'] : [hectares * ACRES_PER_HECTARE, 'ac'];
  return `${decimal(value, value < 10 ? 1 : 0)} ${unit}`;
}

/** The length of a fish in metres as text: whole centimetres, or inches with one decimal. */
export const formatFishLength = (metres: number, units: UnitSystem = readerUnits()): string =>
  units.depth === 'm' ? `${plain(metres * 100, 1)} cm` : `${decimal((metres / METRES_PER_FOOT) * 12, 1)} in`;

/** The mass of a fish in kg as text: kilograms, or pounds and ounces. */
export function formatMass(kilograms: number, units: UnitSystem = readerUnits()): string {
  if (units.depth === 'm') return `${plain(kilograms, 2)} kg`;
  const ounces = Math.round((kilograms / KG_PER_POUND) * 16);
  return ounces < 16 ? `${ounces} oz` : `${Math.floor(ounces / 16)} lb ${ounces % 16} oz`;
}

/** The reader's name of an SI unit: "ft" for "m"; others as they are. */
export const readUnit = (unit: string, units: UnitSystem = readerUnits()): string =>
  unit === 'm' ? units.depth : unit === '°C' ? units.temperature : unit === 'm/s' ? units.speed : unit;

/** A number of an SI unit in the reader's, without its name; with no more decimals than it was given, whole feet from 3 ft on. */
export function inUnit(value: number, unit: string, digits?: number, units: UnitSystem = readerUnits()): string {
  const given = digits ?? Math.min(2, String(value).split('.')[1]?.length ?? 0);
  const as = readUnit(unit, units);
  const text = ((): string => {
    if (as === unit) return decimal(value, given);
    if (as === 'ft') {
      const feet = value / METRES_PER_FOOT;
      return decimal(feet, (Math.abs(feet) >= 3 && given < 2) || value === 0 ? 0 : 1);
    }
    if (as === '°F') return decimal(value * 1.8 + 32, Math.min(1, given));
    const speed = value * SPEED_FACTOR[units.speed];
    return decimal(speed, speed < 10 ? given : 0);
  })();
  return text.replace('-', '−');
}

/** A share or chance with sensible digits: 0.4 %, 3 %, 41 %. */
export const percent = (p: number): string => `${p < 0.0995 ? plain(p * 100, 1) : decimal(p * 100)} %`;

/**
 * What a message may ask for behind `number`: an SI value in the reader's units, with the unit unless `Number` ends the name.
 * depth m · distance m · temperature °C · speed m/s · area m² · fishLength m · mass kg (aboutMass: an estimate) · percent, wholePercent: of a share · tenth, hundredth, whole: decimals
 */
export const QUANTITIES: Readonly<Record<string, (si: number) => string>> = {
  depth: (v) => formatDepth(v),
  depthNumber: (v) => formatDepth(v, undefined, false),
  distance: (v) => formatLength(v),
  distanceNumber: (v) => formatLength(v).split(' ')[0],
  temperature: (v) => formatTemperature(v),
  speed: (v) => formatSpeed(v),
  area: (v) => formatArea(v),
  fishLength: (v) => formatFishLength(v),
  mass: (v) => formatMass(v),
  aboutMass: (v) => (readerUnits().depth === 'm' ? `${decimal(v, 1)} kg` : formatMass(v)),
  tenth: (v) => decimal(v, 1),
  hundredth: (v) => decimal(v, 2),
  whole: (v) => decimal(v),
  percent: (v) => percent(v),
  wholePercent: (v) => `${decimal(v * 100)} %`,
};
