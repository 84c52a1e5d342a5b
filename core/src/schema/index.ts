/** What schemas are put together from, so that all say and refuse alike. */
import { number, object, string, type NumberSchema, type ObjectShape, type StringSchema } from 'yup';

export const MISSING = 'is missing';

/** A text of at most so many characters. */
export const words = (longest: number): StringSchema<string | undefined> =>
  string().strict().typeError('must be text').max(longest, `is longer than ${longest} characters`);

/** A text that says something. */
export const name = (longest: number): StringSchema<string> =>
  string().strict().typeError('must be text').trim().min(1, MISSING).max(longest, `is longer than ${longest} characters`).required(MISSING);

/** A number from `min` to `max`, both included. */
export const within = (min: number, max: number): NumberSchema<number | undefined> =>
  number()
    .strict()
    .typeError('must be a number')
    .test({
      name: 'range',
      params: { min, max },
      message: `is impossible: it must be from ${min} to ${max}`,
      test: (n) => n == null || (n >= min && n <= max),
    });

export const wholeWithin = (min: number, max: number): NumberSchema<number | undefined> =>
  within(min, max).integer('must be a whole number');

/** One of some words. */
export const oneOf = <const O extends string>(options: readonly O[]): StringSchema<O | undefined> =>
  string()
    .strict()
    .typeError('must be text')
    .oneOf<O>(options as O[], `must be one of ${options.join(', ')}`);

/** An object of these fields and no others. */
export const only = <S extends ObjectShape>(fields: S) =>
  object(fields)
    .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
    .strict();
