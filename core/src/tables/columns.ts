import type { Target } from './mapping';

/** Names of columns as people give them, in the languages that turned up, by what they hold; the first that fits. */
const NAMES: [Target, RegExp][] = [
  ['latitude', /^(lat|latitude|breite|breitengrad|geo ?lat|gps ?lat|pos ?lat|y ?lat|lat ?(wgs ?84|dd|deg|y))$/],
  [
    'longitude',
    /^(lon|lng|long|longitude|längengrad|laengengrad|geo ?lon|gps ?lon(g)?|pos ?lon|x ?lon|(lon|long|lng) ?(wgs ?84|dd|deg|x))$/,
  ],
  ['x', /^(x|easting|east|e|rechtswert|rw|x ?coord(inate)?|utm ?(e|x)|utm ?easting|ost)$/],
  ['y', /^(y|northing|north|n|hochwert|hw|y ?coord(inate)?|utm ?(n|y)|utm ?northing|nord)$/],
  ['elevation', /^(elev|elevation|altitude|alt|höhe|bed ?level|bottom ?(elevation|level)|z ?elev)$/],
  [
    'depth',
    /(depth|tiefe|profondeur|profundidad|djup|diepte|dybde|sounding|syvyys|głębokość|contour|isobath|tiefenlinie)|^(z|prof|dpt|gridcode|value|val|band ?1)$/,
  ],
  ['temperature', /(temp|wassertemp)|^(wt|°c|°f)$/],
  ['clarity', /(clarity|secchi|visib|sichttiefe)/],
  ['wind_from', /(wind.*(dir|from)|windrichtung)/],
  ['wind_speed', /wind/],
  ['hardness', /hardness/],
  ['heading', /^(heading|course|cog|kurs|bearing)/],
  ['speed', /^(speed|sog|geschwindigkeit)/],
  ['species', /(species|fischart|espèce|especie|vissoort|laji)|^(fish|art|kind of fish|fisch)$/],
  ['length', /(length|fish size|länge|laenge|longueur)|^(size|cm|inch(es)?|in)$/],
  ['mass', /(weight|mass|gewicht|poids)|^(kg|lbs?|g)$/],
  ['number', /(number|count|qty|quantity|anzahl|how many|caught|catch|stück|nombre)|^(no|n fish|fish ?#|#)$/],
  ['colour', /(colou?r|farbe)/],
  ['lure', /(lure|bait|köder|koeder|fly|leurre)/],
  ['place', /(place|spot|location|where|^ort$|platz|stelle|swim|area|lieu|^site$)/],
  ['hours', /(hours|duration|stunden|time fished|^hrs?$)/],
  ['rods', /(rods|ruten|lines)/],
  ['fate', /(released|kept|fate|c ?& ?r|catch and release|entnommen)/],
  ['angler', /(angler|client|who|fisher|guest|^name$)/],
  ['notes', /(notes?|comments?|remarks?|bemerk|weather|text)/],
  ['time', /^(time ?stamp|date ?time|datetime|date ?(&|and|\/|\+) ?time|gps ?time|utc( ?time)?|time ?utc|zeitstempel|zeitpunkt|when)$/],
  ['date', /(date|datum|^day$|^tag$|fecha)/],
  ['clock', /(time|uhrzeit|^zeit$|clock|^hour$|heure|hora)/],
];

/** A column's name without the unit that it carries, in lower case. */
const bare = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[([{].*?[)\]}]/g, ' ')
    .replace(/[_.,;:]+/g, ' ')
    .replace(/\s(m|ft|feet|fathoms?|metres?|meters?|cm|in|inch(es)?|kg|lbs?|g|c|f|°c|°f|deg|ms|utc)$/, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** What a column holds by its name; 'skip' where the name says nothing. */
export function targetOfName(name: string): Target {
  const text = bare(name);
  return NAMES.find(([, pattern]) => pattern.test(text))?.[0] ?? 'skip';
}

const UNITS: [string, RegExp][] = [
  ['fathom', /\b(fathoms?|fth?m|fm|faden)\b/],
  ['ft', /\b(ft|feet|foot|fuß|fuss|pieds?)\b/],
  ['cm', /\b(cm|centimet(re|er)s?)\b/],
  ['in', /\b(in|inch|inches|zoll)\b/],
  ['m', /\b(m|mtr|met(re|er)s?)\b/],
  ['°F', /(°\s*f\b|\bdeg ?f\b|\bfahrenheit\b|\bf\b)/],
  ['°C', /(°\s*c\b|\bdeg ?c\b|\bcelsius\b|\bc\b)/],
  ['kg', /\bkg\b/],
  ['lb', /\b(lbs?|pounds?)\b/],
  ['g', /\b(g|grams?)\b/],
  ['kn', /\b(kn|knots?|kts?|kt)\b/],
  ['km/h', /\b(km ?\/ ?h|kmh|kph)\b/],
  ['mph', /\bmph\b/],
  ['m/s', /(\bm ?\/ ?s\b|\bms\b)/],
];
const OF: Partial<Record<Target, string[]>> = {
  depth: ['m', 'ft', 'fathom', 'cm'],
  elevation: ['m', 'ft', 'fathom', 'cm'],
  clarity: ['m', 'ft', 'cm', 'in'],
  length: ['cm', 'in', 'm'],
  mass: ['kg', 'lb', 'g'],
  temperature: ['°C', '°F'],
  wind_speed: ['m/s', 'km/h', 'kn', 'mph'],
  speed: ['m/s', 'km/h', 'kn', 'mph'],
};

/** Units that a kind of column can have, the usual one first. */
export const unitsOf = (target: Target): string[] => OF[target] ?? [];

/** The unit that a column's name, or a value of it, carries; undefined where it carries none that fits. */
export function unitIn(text: string, target: Target): string | undefined {
  const plain = text.toLowerCase().replace(/[_()[\]{},;:]/g, ' ');
  return UNITS.find(([unit, pattern]) => unitsOf(target).includes(unit) && pattern.test(plain))?.[0];
}

/** What one of a unit is in SI. Temperatures are not multiples: see `toSi`. */
const FACTORS: Record<string, number> = { m: 1, cm: 0.01, ft: 0.3048, fathom: 1.8288, in: 0.0254, kg: 1, lb: 0.45359237, g: 0.001, 'm/s': 1, 'km/h': 1 / 3.6, kn: 1 / 1.943844, mph: 1 / 2.236936 }; // prettier-ignore

/** A number in a unit as SI. */
export const toSi = (value: number, unit: string | undefined): number =>
  unit === '°F' ? (value - 32) / 1.8 : unit === undefined || unit === '°C' ? value : value * FACTORS[unit];

/** The number of a field, with or without its unit behind it. NaN where it is none. */
export function numberIn(text: string, decimal: '.' | ','): number {
  const plain = decimal === ',' && text.includes(',') ? text.replaceAll('.', '').replace(',', '.') : text;
  const n = Number(plain);
  if (!Number.isNaN(n)) return text.trim() === '' ? NaN : n;
  const m = /^\s*([+-]?[\d]+(?:[.,]\d+)?)\s*[a-z°'"]{1,8}\.?\s*$/i.exec(text);
  return m ? Number(m[1].replace(',', '.')) : NaN;
}
