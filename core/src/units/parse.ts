import { KG_PER_POUND, METRES_PER_FOOT } from './convert';

export type MeasureKind = 'depth' | 'temperature' | 'speed' | 'fishLength' | 'mass';

/** Text that is no measure; the message says what was expected. */
export class MeasureError extends Error {}

const FACTORS: Record<MeasureKind, Record<string, (value: number) => number>> = {
  depth: { m: (v) => v, cm: (v) => v / 100, ft: (v) => v * METRES_PER_FOOT, "'": (v) => v * METRES_PER_FOOT },
  temperature: {
    '°c': (v) => v,
    c: (v) => v,
    '°f': (v) => (v - 32) / 1.8,
    f: (v) => (v - 32) / 1.8,
  },
  speed: {
    'm/s': (v) => v,
    'km/h': (v) => v / 3.6,
    kn: (v) => v / 1.943844,
    mph: (v) => v / 2.236936,
  },
  fishLength: { cm: (v) => v / 100, m: (v) => v, in: (v) => (v * METRES_PER_FOOT) / 12, '"': (v) => (v * METRES_PER_FOOT) / 12 },
  mass: { kg: (v) => v, g: (v) => v / 1000, lb: (v) => v * KG_PER_POUND, oz: (v) => (v * KG_PER_POUND) / 16 },
};

/**
 * What somebody typed, as an SI number: "18 ft", "5,4", "66 °F", "12 kn", "21 in", "3 lb 4 oz".
 * @param text the typed text; a comma is read as a decimal point
 * @param kind what is measured
 * @param assumed the unit of a bare number (as shown beside the input)
 * @throws MeasureError when it is no number or the unit is not one of the kind
 */
export function parseMeasure(text: string, kind: MeasureKind, assumed: string): number {
  const pounds = kind === 'mass' ? /^\s*(\d+)\s*lb\s*(\d+(?:[.,]\d+)?)\s*oz\s*$/i.exec(text) : null;
  if (pounds) return (Number(pounds[1]) + Number(pounds[2].replace(',', '.')) / 16) * KG_PER_POUND;
  const match = /^\s*([+-]?\d+(?:[.,]\d+)?)\s*(\S*)\s*$/.exec(text);
  if (!match) throw new MeasureError(`"${text.trim()}" is not a number with a unit`);
  const unit = (match[2] || assumed).toLowerCase();
  const convert = FACTORS[kind][unit];
  if (!convert) throw new MeasureError(`"${match[2]}" is not a unit of ${kind}; use ${Object.keys(FACTORS[kind]).join(', ')}`);
  return convert(Number(match[1].replace(',', '.')));
}
