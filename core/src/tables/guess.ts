import type { LatLon } from '../geo';
import { numberIn, targetOfName, unitIn, unitsOf } from './columns';
import { signatureOf, type ColumnMapping, type PartMapping, type PartUse, type Question, type Target } from './mapping';
import { guessOrder, hasOffset } from './moments';

/** What a part of a file shows before anybody said what it means. */
export interface GuessInputs {
  /** "table", "sheet Spring", "points", "lines", "areas" or "grid". */
  part: string;
  /** Names of its columns; null where its first row may be the first of the data. */
  columns: string[] | null;
  /** Its first rows, as text. */
  sample: string[][];
  /** Where the water lies, if that is known. */
  near: LatLon | null;
  /** EPSG code that the file, or one beside it, names. */
  crs: number | null;
  /** The day that the file was written, as 2024-05-31. */
  day: string | null;
}

export interface Guess {
  mapping: PartMapping;
  /** What has to be asked for: the mapping holds null there, or nothing. */
  questions: Question[];
}

const isNumber = (text: string | undefined): boolean => text !== undefined && !Number.isNaN(numberIn(text, '.'));

/** Names for columns that have none. */
export const columnNames = (n: number): string[] => Array.from({ length: n }, (_, k) => `column ${k + 1}`);

/** Whether the first row of a table names its columns: it holds words where the rows below hold numbers or dates. */
export function firstRowNames(rows: string[][]): boolean {
  const [first, ...rest] = rows;
  if (!first?.length) return false;
  if (first.some((f) => f.trim() !== '' && targetOfName(f) !== 'skip' && !isNumber(f))) return true;
  const words = first.filter((f) => f.trim() !== '' && !isNumber(f)).length;
  const below = rest.slice(0, 20).flat();
  return words === first.length && below.filter(isNumber).length > below.length / 2;
}

interface Column {
  at: number;
  name: string;
  values: string[];
  numbers: number[];
}

/** What the columns hold where no name says so: two of a position, then the depth. */
function byValues(columns: Column[], crs: number | null, near: LatLon | null): { targets: Target[]; axesUnsure: boolean } {
  const targets: Target[] = columns.map(() => 'skip');
  const dated = columns.find((c) => c.values.length && c.values.every((v) => /\d[-./]\d|\d:\d\d/.test(v)) && guessOrder(c.values) !== null);
  if (dated) targets[dated.at] = 'time';
  const numeric = columns.filter((c) => c !== dated && c.numbers.length && c.numbers.length >= 0.9 * c.values.length);
  const clock = columns.find(
    (c) => c !== dated && !numeric.includes(c) && c.values.length && c.values.every((v) => /^\d{1,2}:\d\d/.test(v.trim())),
  );
  if (clock) targets[clock.at] = dated ? 'clock' : 'skip';
  const degrees = (c: Column): boolean => c.numbers.every((n) => Math.abs(n) <= 180) && c.values.some((v) => /[.,]\d{3,}/.test(v));
  const metric = (c: Column): boolean => c.numbers.every((n) => Math.abs(n) > 1000);
  const geographic = crs === null || crs === 4326;
  for (let k = 0; k + 1 < numeric.length; k++) {
    const [a, b] = [numeric[k], numeric[k + 1]];
    if (geographic && degrees(a) && degrees(b)) {
      const beyond = (c: Column): boolean => c.numbers.some((n) => Math.abs(n) > 90);
      const middle = (c: Column): number => c.numbers.reduce((sum, n) => sum + n, 0) / c.numbers.length;
      // Which way round lies nearer to the water.
      const off = (lat: number, lon: number): number => (near ? Math.hypot(lat - near.latitude, lon - near.longitude) : NaN);
      const [latFirst, lonFirst] = [off(middle(a), middle(b)), off(middle(b), middle(a))];
      const first: Target = beyond(a) ? 'longitude' : beyond(b) ? 'latitude' : latFirst < lonFirst ? 'latitude' : 'longitude';
      targets[a.at] = first;
      targets[b.at] = first === 'latitude' ? 'longitude' : 'latitude';
      const depth = numeric.find((c) => c !== a && c !== b);
      if (depth) targets[depth.at] = 'depth';
      return { targets, axesUnsure: !beyond(a) && !beyond(b) && !near };
    }
    if (metric(a) && metric(b)) {
      targets[a.at] = 'x';
      targets[b.at] = 'y';
      const depth = numeric.find((c) => c !== a && c !== b);
      if (depth) targets[depth.at] = 'depth';
      return { targets, axesUnsure: false };
    }
  }
  return { targets, axesUnsure: false };
}

/** The decimal sign of a table: a comma where numbers have one and none has a point. */
function decimalOf(columns: Column[]): '.' | ',' {
  const texts = columns.flatMap((c) => c.values);
  return texts.some((t) => /^\s*-?\d+,\d+\s*\D{0,5}$/.test(t)) && !texts.some((t) => /^\s*-?\d+\.\d+\s*$/.test(t)) ? ',' : '.';
}

const CATCH: Target[] = ['species', 'number', 'lure', 'place', 'angler'];

/**
 * Guesses what a part of a file means, and says what cannot be known from it.
 * @returns a mapping to begin with; it holds null, or no unit, where a question is open
 */
export function guessPart({ part, columns, sample, near, crs, day }: GuessInputs): Guess {
  const names = columns ?? columnNames(Math.max(0, ...sample.map((r) => r.length)));
  const shown: Column[] = names.map((name, at) => {
    const values = sample.map((r) => r[at] ?? '').filter((v) => v.trim() !== '');
    return { at, name, values, numbers: [] };
  });
  const decimal = decimalOf(shown);
  for (const c of shown) c.numbers = c.values.map((v) => numberIn(v, decimal)).filter((n) => !Number.isNaN(n));
  const questions: Question[] = [];
  let targets: Target[] = columns ? names.map(targetOfName) : [];
  if (!columns) {
    const found = byValues(shown, crs, near);
    targets = found.targets;
    if (found.axesUnsure) questions.push('axes');
  }
  // A name is no promise: a column of words is no depth.
  targets = targets.map((t, k) => (['depth', 'elevation', 'x', 'y'].includes(t) && !shown[k].numbers.length ? 'skip' : t));
  const first = (t: Target): number => targets.indexOf(t);
  // Of two columns that seem to hold the same, the first does.
  const twice = targets.map((t, k) => t !== 'skip' && first(t) !== k);
  targets = targets.map((t, k) => (twice[k] ? 'skip' : t));
  // In German both a fish and a longitude are as long.
  if (first('latitude') >= 0 && first('longitude') < 0)
    targets = targets.map((t, k) => (t === 'length' && /^l(ä|ae)nge/i.test(names[k]) ? 'longitude' : t));
  if (first('clock') >= 0 && first('date') < 0 && first('time') < 0) {
    // A column called "time" that holds a day, too.
    const k = first('clock');
    if (guessOrder(shown[k].values) !== null) targets[k] = 'time';
  }
  // A column of moments under a name that says nothing.
  if (first('time') < 0 && first('date') < 0) {
    const dated = shown.find((c) => targets[c.at] === 'skip' && c.values.length > 0 && c.values.every((v) => /\d[-./]\d+[-./]\d/.test(v)) && guessOrder(c.values) !== null); // prettier-ignore
    if (dated) targets[dated.at] = 'time';
  }
  const has = (...wanted: Target[]): boolean => wanted.every((t) => first(t) >= 0);
  const located = has('latitude', 'longitude') || has('x', 'y');
  const catches = CATCH.filter((t) => has(t)).length >= 2 || (has('species') && (has('date') || has('time')));
  const use: PartUse =
    part === 'areas'
      ? 'outline'
      : catches
        ? 'catches'
        : located && (has('depth') || has('elevation'))
          ? 'soundings'
          : part === 'lines'
            ? 'outline'
            : part === 'points'
              ? 'places'
              : 'skip';
  const table = use === 'soundings' || use === 'catches';
  if (!table && use === 'skip') questions.push('columns');

  const mapped: ColumnMapping[] = names.map((from, k) => {
    const to = targets[k];
    const units = unitsOf(to);
    if (!units.length) return { from, to };
    const said = unitIn(from, to) ?? unitIn(shown[k].values[0] ?? '', to);
    return said ? { from, to, unit: said } : { from, to, ...usualUnit(to, shown[k].numbers) };
  });
  const sounded = mapped.find((c) => c.to === 'depth' || c.to === 'elevation');
  const depths = sounded ? shown[names.indexOf(sounded.from)].numbers : [];
  let sign: PartMapping['sign'] =
    depths.length && depths.every((d) => d >= 0) ? 'down' : depths.length && depths.every((d) => d <= 0) ? 'up' : null;
  let level: number | null = null;
  if (use === 'soundings') {
    if (sounded && !sounded.unit) questions.push('unit');
    if (sounded?.to === 'elevation' && sign !== 'up') {
      sign = 'up';
      questions.push('level');
    } else if (sounded?.to === 'elevation') level = 0;
    else if (sign === null) questions.push('sign');
  } else if (use === 'catches') {
    sign = 'down';
    if (sounded && !sounded.unit) questions.push('unit');
    if (has('hours', 'place')) questions.push('hours');
  }
  let system = crs;
  if (has('latitude', 'longitude')) system = 4326;
  else if (table && has('x', 'y') && system === null) questions.push('crs');

  const dateAt = first('time') >= 0 ? first('time') : first('date');
  const dates = dateAt >= 0 ? shown[dateAt].values : [];
  const guessed = guessOrder(dates);
  const order = guessed === 'ambiguous' ? null : guessed;
  if (table && dates.length) {
    if (guessed === 'ambiguous') questions.push('order');
    else if (guessed === null) questions.push('columns');
  }
  const utc = /utc|gmt|zulu/i.test(dateAt >= 0 ? names[dateAt] : '');
  const timed = dates.length > 0 && order !== 'unix' && !dates.every(hasOffset);
  // Times that name their own zone, and tables without any, leave nothing to ask.
  const zone = utc || (table && !timed) ? 'UTC' : null;
  if (table && timed && !utc) questions.push('zone');
  return {
    mapping: {
      signature: signatureOf(part, columns ?? [`${names.length} columns without names`]),
      as: use,
      columns: mapped,
      header: columns !== null,
      decimal,
      sign,
      level,
      crs: system,
      order,
      zone,
      day: dates.length ? null : day,
      hours: null,
    },
    questions,
  };
}

/** The unit of a column that names none, where its values leave no doubt. */
function usualUnit(target: Target, numbers: number[]): { unit?: string } {
  if (!numbers.length) return {};
  const most = Math.max(...numbers);
  switch (target) {
    // Warmer than any water in °C.
    case 'temperature':
      return { unit: most > 40 ? '°F' : '°C' };
    case 'length':
      return { unit: most <= 2.5 ? 'm' : 'cm' };
    case 'mass':
      return { unit: most > 120 ? 'g' : 'kg' };
    case 'clarity':
      return { unit: most > 25 ? 'cm' : 'm' };
    case 'wind_speed':
    case 'speed':
      return { unit: 'm/s' };
    default:
      return {};
  }
}
