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
  | { readonly type: 'number'; readonly least: number; readonly most: number; readonly whole: boolean }
  | { readonly type: 'time' }
) & { readonly __value?: T };

type NumberLimits = { least: number; most: number; whole?: boolean };

export const text = (what: string, longest = 200): Field<string, false> => ({ type: 'text', longest, needed: false, what });
export const choice = <const O extends readonly string[]>(what: string, options: O): Field<O[number], false> => ({
  type: 'choice',
  options,
  needed: false,
  what,
});
export const number = (what: string, { least, most, whole = false }: NumberLimits): Field<number, false> => ({
  type: 'number',
  least,
  most,
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

const ISO = /^(\d{4})-(\d\d)-(\d\d)[T ](\d\d):(\d\d)(?::(\d\d(?:\.\d+)?))?\s*(Z|z|[+-]\d\d(?::?\d\d)?)$/;

/** An ISO 8601 time with offset or Z as UTC text; a string that starts with "!" says what is wrong. */
export function readTime(value: string): string {
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
  const offset = m[7].length === 3 ? `${m[7]}:00` : m[7].length === 5 ? `${m[7].slice(0, 3)}:${m[7].slice(3)}` : m[7].toUpperCase();
  const parsed = Date.parse(`${m[1]}-${m[2]}-${m[3]}T${m[4]}:${m[5]}:${m[6] ?? '00'}${offset}`);
  return Number.isNaN(parsed) ? '!is no time that exists' : new Date(parsed).toISOString();
}

/**
 * Reads the text of one field.
 * @returns the value, null where an optional field is empty, or a string in `refused` that says what is wrong
 */
export function readField(field: Field, raw: string): { value: string | number | null } | { refused: string } {
  const value = raw.trim();
  if (value === '') return field.needed ? { refused: 'is missing' } : { value: null };
  switch (field.type) {
    case 'text':
      if (value.includes('\u0000')) return { refused: 'holds a zero byte' };
      return value.length > field.longest ? { refused: `is longer than ${field.longest} characters` } : { value };
    case 'choice': {
      const option = field.options.find((o) => o === value.toLowerCase());
      return option === undefined ? { refused: `"${value}" is none of ${field.options.join(', ')}` } : { value: option };
    }
    case 'number': {
      if (!/^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/.test(value)) return { refused: `"${value}" is not a number` };
      return checkNumber(field, Number(value));
    }
    case 'time': {
      const read = readTime(value);
      return read.startsWith('!') ? { refused: `"${value}" ${read.slice(1)}` } : { value: read };
    }
  }
}

function checkNumber(field: Field & { type: 'number' }, n: number): { value: number } | { refused: string } {
  if (!Number.isFinite(n) || n < field.least || n > field.most)
    return { refused: `${n} is impossible: it must be from ${field.least} to ${field.most}` };
  if (field.whole && !Number.isInteger(n)) return { refused: `${n} is not a whole number` };
  return { value: n };
}
