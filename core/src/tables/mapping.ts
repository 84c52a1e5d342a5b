import { array, boolean, number, string, ValidationError } from 'yup';
import { FormatError } from '../formats';
import { MISSING, name, oneOf, only, within } from '../schema';
import type { DateOrder } from './moments';

/** What a column can hold; 'skip' is passed over. */
export const TARGETS = [
  'latitude',
  'longitude',
  'x',
  'y',
  'depth',
  'elevation',
  'time',
  'date',
  'clock',
  'temperature',
  'hardness',
  'heading',
  'speed',
  // Of a catch.
  'place',
  'species',
  'number',
  'length',
  'mass',
  'lure',
  'colour',
  'clarity',
  'wind_speed',
  'wind_from',
  'hours',
  'rods',
  'angler',
  'fate',
  'notes',
  'skip',
] as const;
export type Target = (typeof TARGETS)[number];

/** What a column of a file holds. */
export interface ColumnMapping {
  /** Its name as the file has it; "column 1" where the file names none. */
  from: string;
  to: Target;
  /** Unit of a length, a mass, a temperature or a speed. */
  unit?: string;
}

/** What a part of a file becomes. */
export type PartUse = 'soundings' | 'catches' | 'outline' | 'places' | 'skip';

/** How one part of a file (a table, a sheet, the points, lines or areas of a map file, a grid) is read. */
export interface PartMapping {
  /** What files it is for: the part and its columns, in one text. */
  signature: string;
  as: PartUse;
  columns: ColumnMapping[];
  /** Whether the first row names the columns. */
  header: boolean;
  /** Decimal sign of its numbers. */
  decimal: '.' | ',';
  /** Whether depths grow downwards ('down'), or are negative below the surface ('up'); null while nobody knows. */
  sign: 'down' | 'up' | null;
  /** Height of the water's surface in the system of its elevations, m. */
  level: number | null;
  /** EPSG code of x and y; 4326 for degrees. */
  crs: number | null;
  order: DateOrder | null;
  /** IANA zone, or an offset such as +02:00, of times that name none. */
  zone: string | null;
  /** The day of a table without one, as 2024-05-31. */
  day: string | null;
  /** Whether the hours of a catch are those of its place, or of the whole day. */
  hours: 'place' | 'day' | null;
}

/** What cannot be known from a file alone, and has to be asked for. */
export type Question = 'columns' | 'unit' | 'sign' | 'level' | 'zone' | 'order' | 'crs' | 'axes' | 'hours';

/** mapping.json: how files are read, by what they look like. */
export interface Mapping {
  format: typeof FORMAT;
  parts: PartMapping[];
  /** Spots that place names of catches stand for. */
  places?: { name: string; latitude: number; longitude: number }[];
}

const FORMAT = 'restless-shoal mapping 1';

/** What a part looks like: files with the same signature are read in the same way. */
export const signatureOf = (part: string, columns: string[]): string => `${part}: ${columns.join(' | ')}`;

/** mapping.json as text. */
export const mappingText = (parts: PartMapping[], places?: Mapping['places']): string =>
  `${JSON.stringify({ format: FORMAT, parts, ...(places?.length ? { places } : {}) } satisfies Mapping, null, 2)}\n`;

const partSchema = only({
  signature: string().strict().required(MISSING),
  as: oneOf(['soundings', 'catches', 'outline', 'places', 'skip']).required(MISSING),
  columns: array(
    only({ from: string().strict().required(MISSING), to: oneOf(TARGETS).required(MISSING), unit: string().strict() }),
  ).required(MISSING),
  header: boolean().strict().required(MISSING),
  decimal: oneOf(['.', ',']).required(MISSING),
  sign: oneOf(['down', 'up']).nullable().defined('is missing: null where it is not known'),
  level: within(-500, 9000).nullable().defined('is missing: null where it is not known'),
  crs: number().strict().integer('must be an EPSG code').nullable().defined('is missing: null where it is not known'),
  order: string()
    .strict()
    .oneOf(['ymd', 'dmy', 'mdy', 'excel', 'unix', null] as string[], 'must be ymd, dmy, mdy, excel or unix')
    .nullable()
    .defined('is missing: null where it is not known'),
  zone: string().strict().nullable().defined('is missing: null where it is not known'),
  hours: string()
    .strict()
    .oneOf(['place', 'day', null] as string[], 'must be place or day')
    .nullable()
    .defined('is missing: null where it is not known'),
  day: string()
    .strict()
    .matches(/^\d{4}-\d\d-\d\d$/, 'must be a day such as 2024-05-31')
    .nullable()
    .defined('is missing: null where it is not known'),
});

/** A list of part mappings, as the HTTP interface takes it. */
export const partMappings = array(partSchema);

/** Spots that place names stand for, as the HTTP interface takes them. */
export const mappedPlaces = array(
  only({ name: name(200), latitude: within(-90, 90).required(MISSING), longitude: within(-180, 180).required(MISSING) }),
);

const mappingSchema = only({
  format: string().strict().oneOf([FORMAT], `must be "${FORMAT}"`).required(MISSING),
  parts: array(partSchema).required(MISSING),
  places: mappedPlaces,
});

/** Reads mapping.json. @throws FormatError that names the field */
export function readMapping(text: string, file: string): Mapping {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new FormatError(`${file}: is not JSON: ${(error as Error).message}`);
  }
  try {
    return mappingSchema.validateSync(value) as unknown as Mapping;
  } catch (error) {
    if (error instanceof ValidationError) throw new FormatError(`${file}: ${error.path ?? ''} ${error.message}`);
    throw error;
  }
}
