import { formatDepth, SPEED_FACTOR, toUnit, type UnitSystem } from './format';

const NUMBER = String.raw`\d[\d\u202f]*(?:\.\d+)?`;
/** Numbers that share the unit behind the last: "4.6–7.0 m", "3 to 5 °C", "between 4.6 and 7.0 m". */
const SHARED = String.raw`(?:between ${NUMBER} and |(?:${NUMBER}(?:–| – | to | / | → ))*)`;
const UNIT = String.raw`(?:m/s|°C|km|m)(?![\w²³/])`;
/** What makes a temperature a step from another one. */
const STEP = String.raw`(?: a day| warmer| colder)?`;
const MEASURE = new RegExp(String.raw`(?<![\w.])([±+−-]?)(${SHARED})(${NUMBER})([ \u00a0]?)(${UNIT})(${STEP})`, 'g');
const ANY_NUMBER = new RegExp(NUMBER, 'g');

const KM_PER_MILE = 1.609344;

/** One number in the reader's units. @param isStep whether it is a difference: one of temperatures has no zero of its own */
function converted(text: string, unit: string, isStep: boolean, units: UnitSystem): string {
  const value = Number(text.replaceAll('\u202f', ''));
  const decimals = text.split('.')[1]?.length ?? 0;
  switch (unit) {
    case '°C':
      return (value * 1.8 + (isStep ? 0 : 32)).toFixed(Math.min(1, decimals));
    case 'm/s': {
      const speed = value * SPEED_FACTOR[units.speed];
      return speed.toFixed(speed < 10 ? decimals : 0);
    }
    case 'km':
      return (value / KM_PER_MILE).toFixed(1);
    default: {
      // What was said to a decimal of a metre is no better known than to a foot.
      const feet = toUnit(value, 'depth', units);
      return (feet >= 3 && decimals < 2) || (feet === 0 && decimals === 0) ? feet.toFixed(0) : formatDepth(value, units, false);
    }
  }
}

/** How the reader's units are called that stand for SI ones; an SI unit that none stands for is its own. */
const namesIn = (units: UnitSystem): Record<string, string> => ({
  m: units.depth,
  km: units.depth === 'm' ? 'km' : 'mi',
  '°C': units.temperature,
  'm/s': units.speed,
});

/** The reader's unit for an SI one, "" and units of other things as they are. */
export const unitIn = (units: UnitSystem, unit: string): string => namesIn(units)[unit] ?? unit;

/** The numbers of a text that are all in one SI unit, in the reader's: the names of classes, "5 to 8". @param unit SI, or one of other things */
export const numbersIn = (units: UnitSystem, unit: string, text: string): string =>
  unitIn(units, unit) === unit ? text : text.replace(ANY_NUMBER, (number) => converted(number, unit, false, units));

/**
 * A text whose measures are SI, in the reader's units: depths and lengths, temperatures, speeds, and numbers that share
 * a unit. All else stands as it is, and so does every text where the units are SI.
 * @param text e.g. "between 4.6 and 7.0 m, 18.2 °C, SW 6 m/s"
 */
export function sayIn(units: UnitSystem, text: string): string {
  const shown = namesIn(units);
  return text.replace(MEASURE, (whole: string, sign: string, shared: string, last: string, space: string, unit: string, step: string) => {
    if (shown[unit] === unit) return whole;
    const isStep = sign === '±' || sign === '+' || step !== '';
    const each = (number: string): string => converted(number, unit, isStep, units);
    return `${sign}${shared.replace(ANY_NUMBER, each)}${each(last)}${space}${shown[unit]}${step}`;
  });
}
