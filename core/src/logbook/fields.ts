/**
 * What a field of a record may hold. One description serves the Yup schemas (HTTP, forms), the readers of
 * files (fast, with the reason for a refusal) and the writers.
 */
export type Field<T = unknown, Needed extends boolean = boolean> = {
  readonly needed: Needed;
  readonly what: string;
} & (
  | { readonly type: 'text'; readonly longest: number }
  | { readonly type: 'choice'; readonly options: readonly string[] }
  | { readonly type: 'number'; readonly min: number; readonly max: number; readonly whole: boolean }
  | { readonly type: 'time' }
) & { readonly __value?: T };

type NumberLimits = { min: number; max: number; whole?: boolean };

export const text = (what: string, longest = 200): Field<string, false> => ({ type: 'text', longest, needed: false, what });
export const choice = <const O extends readonly string[]>(what: string, options: O): Field<O[number], false> => ({
  type: 'choice',
  options,
  needed: false,
  what,
});
export const number = (what: string, { min, max, whole = false }: NumberLimits): Field<number, false> => ({
  type: 'number',
  min,
  max,
  whole,
  needed: false,
  what,
});
export const time = (what: string): Field<string, false> => ({ type: 'time', needed: false, what });
export const needed = <T>(field: Field<T>): Field<T, true> => ({ ...field, needed: true }) as Field<T, true>;

export type Fields = Record<string, Field>;

/** The row a set of fields describes: needed fields hold a value, the others may be null. */
export type RowOf<F extends Fields> = {
  [K in keyof F]: F[K] extends Field<infer T, infer N> ? (N extends true ? T : T | null) : never;
};

type NeededOf<F extends Fields> = { [K in keyof F]: F[K] extends Field<unknown, true> ? K : never }[keyof F];
/** The same row as it is sent: what is not needed may be left out, `Out` stands in the address, `Open` may not be known yet. */
export type SentOf<F extends Fields, Out extends keyof F = never, Open extends keyof F = never> = Pick<
  RowOf<F>,
  Exclude<NeededOf<F>, Out | Open>
> & { [K in Open]?: RowOf<F>[K] | null } & Partial<Omit<RowOf<F>, NeededOf<F> | Out | Open>>;

const ISO = /^(\d{4})-(\d\d)-(\d\d)[T ](\d\d):(\d\d)(?::(\d\d(?:\.\d+)?))?\s*(Z|z|[+-]\d\d(?::?\d\d)?)$/;

const DAYS = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** Two digits at a place as a number; NaN when they are none. */
function two(text: string, at: number): number {
  const [a, b] = [text.charCodeAt(at) - 48, text.charCodeAt(at + 1) - 48];
  return a >= 0 && a <= 9 && b >= 0 && b <= 9 ? 10 * a + b : NaN;
}

/** The commonest form, 2026-06-14T08:47:00(.000)Z, told without making a date; null when it is another, or none. */
function plainTime(t: string): string | null {
  const millis = t.length === 24;
  if (
    (!millis && t.length !== 20) ||
    t[t.length - 1] !== 'Z' ||
    t[4] !== '-' ||
    t[7] !== '-' ||
    t[10] !== 'T' ||
    t[13] !== ':' ||
    t[16] !== ':'
  )
    return null;
  if (millis && (t[19] !== '.' || !(two(t, 20) >= 0) || !(two(t, 21) >= 0))) return null;
  const [century, year, month, day] = [two(t, 0), two(t, 2), two(t, 5), two(t, 8)];
  if (!(century >= 19 && century <= 21 && year >= 0 && month >= 1 && month <= 12 && day >= 1 && day <= DAYS[month - 1])) return null;
  if (month === 2 && day === 29 && !(year % 4 === 0 && (year !== 0 || century % 4 === 0))) return null;
  if (!(two(t, 11) <= 23 && two(t, 14) <= 59 && two(t, 17) <= 59)) return null;
  return millis ? t : `${t.slice(0, 19)}.000Z`;
}

/** An ISO 8601 time with offset or Z as UTC text; a string that starts with "!" says what is wrong. */
export function readTime(value: string): string {
  const plain = plainTime(value);
  if (plain !== null) return plain;
  const m = ISO.exec(value);
  if (!m) {
    return /^\d{4}-\d\d-\d\d([T ]\d\d:\d\d)?/.test(value)
      ? '!needs a time of day and an offset or Z, as in 2026-06-14T08:47:00+02:00'
      : '!is not an ISO 8601 time, as in 2026-06-14T08:47:00Z';
  }
  const [month, day] = [Number(m[2]), Number(m[3])];
  const daysInMonth = new Date(Date.UTC(Number(m[1]), month, 0)).getUTCDate();
  if (month < 1 || month > 12 || day < 1 || day > daysInMonth || Number(m[4]) > 23 || Number(m[5]) > 59 || Number(m[6] ?? 0) >= 61)
    return '!is no date that exists';
  if (Number(m[1]) < 1900 || Number(m[1]) > 2199) return '!is impossible: it must be from 1900 to 2199';
  const offset = m[7].length === 3 ? `${m[7]}:00` : m[7].length === 5 ? `${m[7].slice(0, 3)}:${m[7].slice(3)}` : m[7].toUpperCase();
  // The clocks of the world lie between these.
  if (Math.abs(Number(offset.slice(0, 3))) > 14) return '!has an offset that no clock has';
  const parsed = Date.parse(`${m[1]}-${m[2]}-${m[3]}T${m[4]}:${m[5]}:${m[6] ?? '00'}${offset}`);
  return Number.isNaN(parsed) ? '!is no time that exists' : new Date(parsed).toISOString();
}

/** Why a text is no value of its field. One object a refusal: the values themselves come bare, by the million. */
export class Refused {
  constructor(readonly reason: string) {}
}

/** Below this no instrument tells a number from nought, nor does every column of a database hold it. */
const SMALLEST = 1e-30;
/** A number, or nought where it is as good as that. */
export const flushTiny = (n: number): number => (Math.abs(n) < SMALLEST ? 0 : n);

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/;

/** Reads the text of one field: its value, null where an optional field is empty, or why it is none. */
export function readField(field: Field, raw: string): string | number | null | Refused {
  const value = raw.trim();
  if (value === '') return field.needed ? new Refused('is missing') : null;
  switch (field.type) {
    case 'text':
      if (value.includes('\u0000')) return new Refused('holds a zero byte');
      return value.length > field.longest ? new Refused(`is longer than ${field.longest} characters`) : value;
    case 'choice': {
      const option = field.options.find((o) => o === value.toLowerCase());
      return option === undefined ? new Refused(`"${value}" is none of ${field.options.join(', ')}`) : option;
    }
    case 'number': {
      if (!NUMBER.test(value)) return new Refused(`"${value}" is not a number`);
      return checkNumber(field, flushTiny(Number(value)));
    }
    case 'time': {
      const read = readTime(value);
      return read.startsWith('!') ? new Refused(`"${value}" ${read.slice(1)}`) : read;
    }
  }
}

function checkNumber(field: Field & { type: 'number' }, n: number): number | Refused {
  if (!Number.isFinite(n) || n < field.min || n > field.max)
    return new Refused(`${n} is impossible: it must be from ${field.min} to ${field.max}`);
  if (field.whole && !Number.isInteger(n)) return new Refused(`${n} is not a whole number`);
  return n;
}
