import { array, boolean, mixed, number, object, string, type AnyObjectSchema, type Schema } from 'yup';
import { geometryFault } from '../geo';
import { readTime, type Field, type Fields } from './fields';
import { COVER_KINDS } from './cover';
import { COVERS, records, rowContradiction, type RecordName, type Row } from './records';

function fieldSchema(field: Field): Schema {
  switch (field.type) {
    case 'text':
      return string().strict().typeError('must be text').max(field.longest, `is longer than ${field.longest} characters`);
    case 'choice':
      return string()
        .strict()
        .typeError('must be text')
        .oneOf([...field.options, null] as string[], `must be one of ${field.options.join(', ')}`);
    case 'number': {
      const limits = `is impossible: it must be from ${field.least} to ${field.most}`;
      const base = number().strict().typeError('must be a number').min(field.least, limits).max(field.most, limits);
      return field.whole ? base.integer('must be a whole number') : base;
    }
    case 'time':
      return string()
        .strict()
        .typeError('must be a time')
        .test('time', 'is not an ISO 8601 time with offset or Z', (v) => v == null || !readTime(v).startsWith('!'));
  }
}

function shape(fields: Fields, leaveOut: string[] = [], optional: string[] = []): AnyObjectSchema {
  const entries = Object.entries(fields)
    .filter(([name]) => !leaveOut.includes(name))
    .map(([name, field]): [string, Schema] => {
      const schema = fieldSchema(field);
      return [name, field.needed && !optional.includes(name) ? schema.required('is missing').nonNullable('is missing') : schema.nullable()];
    });
  const blank = entries.find(([name]) => name === 'species');
  // A name of nothing would stand among the species for good.
  if (blank) blank[1] = blank[1].test('blank', 'is blank', (v) => typeof v !== 'string' || v.trim() !== '');
  return object(Object.fromEntries(entries))
    .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
    .strict();
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/i;

/** Whether a text is a UUID. */
export const isId = (text: string): boolean => UUID.test(text);

/** A time-ordered UUID made by the client. */
const uuid = (): Schema => string().strict().matches(UUID, 'is not a UUID').required('is missing');

function recordSchema(record: RecordName, leaveOut: string[] = [], optional: string[] = []): AnyObjectSchema {
  return shape(records[record] as Fields, leaveOut, optional).test('consistent', '', (row, context) => {
    const wrong = row ? rowContradiction(record, row as Row) : null;
    return wrong ? context.createError({ path: wrong.column, message: wrong.reason }) : true;
  });
}

const numberFrom = (least: number, most: number) =>
  number().strict().typeError('must be a number').min(least, 'is impossible').max(most, 'is impossible').nullable();

/** Settings of a form of their own are no longer than some pages, characters. */
const LONGEST_SETTING = 50_000;
const smallJson = (): Schema =>
  mixed()
    .nullable()
    .test('size', `is longer than ${LONGEST_SETTING} characters`, (v) => v == null || JSON.stringify(v).length <= LONGEST_SETTING);

/** Which steps clean a water's soundings. */
const cleaningSchema = object({
  ...Object.fromEntries(
    ['jumps', 'doubles', 'spikes', 'lag', 'level'].map((step) => [step, boolean().strict().typeError('must be true or false')]),
  ),
  transducer_m: number().strict().typeError('must be a number').min(0, 'is impossible').max(30, 'is impossible').nullable(),
  assumed_sound_ms: number().strict().typeError('must be a number').min(1300, 'is impossible').max(1700, 'is impossible').nullable(),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** Cover placed by hand. */
const coverSchema = object({
  kind: string()
    .strict()
    .oneOf([...COVER_KINDS], `must be one of ${COVER_KINDS.join(', ')}`)
    .required('is missing'),
  cover: string()
    .strict()
    .oneOf([...COVERS, null] as string[], `must be one of ${COVERS.join(', ')}`)
    .nullable(),
  name: string().strict().max(200, 'is longer than 200 characters').nullable(),
  height_m: number().strict().typeError('must be a number').min(0, 'is impossible').max(1000, 'is impossible').nullable(),
  geometry: object({
    type: string().oneOf(['Point', 'LineString', 'Polygon'], 'must be a Point, LineString or Polygon').required('is missing'),
    coordinates: array().required('is missing'),
  })
    .required('is missing')
    .strict()
    .test({ test: (v, { createError }) => (v && geometryFault(v) !== null ? createError({ message: geometryFault(v)! }) : true) }),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** What the HTTP interface takes, a schema a record; `trip` comes from the address there. */
export const schemas = {
  trip: recordSchema('trips', [], ['end']),
  reading: recordSchema('conditions', ['trip']),
  profileSample: recordSchema('profiles', ['trip']),
  fix: recordSchema('track', ['trip']),
  stop: recordSchema('stops', ['trip']),
  contact: recordSchema('contacts', ['trip']),
  response: recordSchema('responses', ['trip']),
  sounding: recordSchema('soundings'),
  fixes: array()
    .strict()
    .typeError('must be a list')
    .of(recordSchema('track', ['trip']))
    .min(1, 'is empty')
    .max(5000, 'holds more than 5000')
    .required('is missing'),
  id: uuid(),
  cleaning: cleaningSchema,
  cover: coverSchema,
  water: object({
    name: string()
      .strict()
      .typeError('must be text')
      .trim()
      .min(1, 'is missing')
      .max(120, 'is longer than 120 characters')
      .required('is missing'),
    kind: string().strict().nullable().max(60),
    datum: string().strict().nullable().max(120),
    altitude_m: numberFrom(-450, 6500),
    latitude: numberFrom(-90, 90),
    longitude: numberFrom(-180, 180),
    deepest_m: numberFrom(0.3, 1700),
    time_zone: string()
      .strict()
      .nullable()
      .test('zone', 'is not a time zone such as Etc/GMT+2', (v) => v == null || isTimeZone(v)),
    outline: mixed().nullable(),
    forage: array()
      .of(string().strict().required().max(100, 'is longer than 100 characters'))
      .max(200, 'holds more than 200')
      .strict()
      .nullable(),
    rules: smallJson(),
    rigs: smallJson(),
    cleaning: cleaningSchema.nullable(),
  })
    .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
    .strict(),
};

export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}
