import { array, boolean, mixed, object, string, type AnyObjectSchema, type Schema, type StringSchema } from 'yup';
import { geometryFault } from '../geo';
import { tideSchema } from '../tide';
import { MISSING, name, oneOf, only, within, wholeWithin, words } from '../schema';
import { readTime, type Field, type Fields, type SentOf } from './fields';
import { COVER_KINDS } from './cover';
import { COVERS, records, rowContradiction, type RecordName, type Row } from './records';

function fieldSchema(field: Field): Schema {
  switch (field.type) {
    case 'text':
      return words(field.longest);
    case 'choice':
      return oneOf(field.options);
    case 'number':
      return (field.whole ? wholeWithin : within)(field.min, field.max);
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
      return [name, field.needed && !optional.includes(name) ? schema.required(MISSING).nonNullable(MISSING) : schema.nullable()];
    });
  const blank = entries.find(([name]) => name === 'species');
  // A name of nothing would stand among the species for good.
  if (blank) blank[1] = blank[1].test('blank', 'is blank', (v) => typeof v !== 'string' || v.trim() !== '');
  return only(Object.fromEntries(entries));
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/i;

/** Whether a text is a UUID. */
export const isId = (text: string): boolean => UUID.test(text);

/** A time-ordered UUID made by the client. */
const uuid = (): StringSchema<string> => string().strict().matches(UUID, { name: 'uuid', message: 'is not a UUID' }).required(MISSING);

type Shapes = typeof records;
function recordSchema<R extends RecordName, Out extends keyof Shapes[R] & string = never, Open extends keyof Shapes[R] & string = never>(
  record: R,
  leaveOut: Out[] = [],
  optional: Open[] = [],
): Schema<SentOf<Shapes[R], Out, Open>> {
  return shape(records[record] as Fields, leaveOut, optional).test('consistent', '', (row, context) => {
    const wrong = row ? rowContradiction(record, row as Row) : null;
    return wrong ? context.createError({ path: wrong.column, message: wrong.reason }) : true;
  }) as unknown as Schema<SentOf<Shapes[R], Out, Open>>;
}

/** Settings of a form of their own are no longer than some pages, characters. */
const LONGEST_SETTING = 50_000;
const smallJson = (): Schema =>
  mixed()
    .nullable()
    .test('size', `is longer than ${LONGEST_SETTING} characters`, (v) => v == null || JSON.stringify(v).length <= LONGEST_SETTING);

/** Which steps clean a water's soundings. */
const cleaningSchema = only({
  ...Object.fromEntries(
    ['jumps', 'doubles', 'spikes', 'lag', 'level'].map((step) => [step, boolean().strict().typeError('must be true or false')]),
  ),
  transducer_m: within(0, 30).nullable(),
  assumed_sound_ms: within(1300, 1700).nullable(),
});

/** Cover placed by hand. */
const coverSchema = only({
  kind: oneOf(COVER_KINDS).required(MISSING),
  cover: oneOf(COVERS).nullable(),
  name: words(200).nullable(),
  height_m: within(0, 1000).nullable(),
  speed_limit_ms: within(0.1, 100).nullable(),
  geometry: object({
    type: string().oneOf(['Point', 'LineString', 'Polygon'], 'must be a Point, LineString or Polygon').required(MISSING),
    coordinates: array().required(MISSING),
  })
    .required(MISSING)
    .strict()
    .test({ test: (v, { createError }) => (v && geometryFault(v) !== null ? createError({ message: geometryFault(v)! }) : true) }),
});

/** What the HTTP interface takes, a schema a record; `trip` comes from the address there. */
export const schemas = {
  trip: recordSchema('trips', [], ['end']),
  reading: recordSchema('conditions', ['trip']),
  fix: recordSchema('track', ['trip']),
  stop: recordSchema('stops', ['trip']),
  contact: recordSchema('contacts', ['trip']),
  response: recordSchema('responses', ['trip']),
  photo: recordSchema('photos', ['trip']),
  gear: recordSchema('gear'),
  sounding: recordSchema('soundings'),
  fixes: array()
    .strict()
    .typeError('must be a list')
    .of(recordSchema('track', ['trip']))
    .min(1, 'is empty')
    .max(5000, 'holds more than 5000')
    .required(MISSING),
  profile: array()
    .strict()
    .typeError('must be a list')
    .of(recordSchema('profiles', ['trip']))
    .min(1, 'is empty')
    .max(5000, 'holds more than 5000')
    .required(MISSING),
  id: uuid(),
  cleaning: cleaningSchema,
  cover: coverSchema,
  water: only({
    name: name(120),
    kind: words(60).nullable(),
    datum: words(120).nullable(),
    altitude_m: within(-450, 6500).nullable(),
    latitude: within(-90, 90).nullable(),
    longitude: within(-180, 180).nullable(),
    deepest_m: within(0.3, 1700).nullable(),
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
    cleaning: cleaningSchema.nullable().optional().default(undefined),
    tide: tideSchema.nullable().optional().default(undefined),
  }),
};

export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}
