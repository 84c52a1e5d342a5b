import { ValidationError } from 'yup';

/** What kinds of trouble a request can meet: the status of each, and its detail in English with `{values}`. */
export const PROBLEMS = {
  // Of a field; `field` says which.
  'field-missing': [400, '{field} is missing'],
  'field-wrong-type': [400, '{field} {reason}'],
  'field-out-of-range': [400, '{field} is impossible: it must be from {min} to {max}'],
  'field-not-whole': [400, '{field} must be a whole number'],
  'field-too-long': [400, '{field} {reason}'],
  'field-empty': [400, '{field} {reason}'],
  'field-none-of': [400, '{field} must be one of {options}'],
  'field-unknown': [400, 'does not know the field {field}'],
  'field-wrong': [400, '{field} {reason}'],
  'text-unkeepable': [400, '{field} holds a zero byte or half a character'],
  // Of the request as a whole.
  'request-wrong': [400, '{reason}'],
  'request-not-json': [415, 'the request has to be JSON'],
  'request-unreadable': [400, 'the request is not JSON'],
  'request-too-deep': [400, 'the request has lists in lists without end'],
  'request-too-large': [413, 'the request holds too much: send it in pieces'],
  'upload-not-bytes': [415, 'a file is sent as application/octet-stream'],
  'picture-unreadable': [400, 'this is no picture that can be read: JPEG, PNG or WebP'],
  'file-unreadable': [400, '{reason}'],
  'foreign-site': [403, '{what} is not this application'],
  // Of who asks.
  'password-wrong': [401, 'the password is wrong'],
  'not-signed-in': [401, 'sign in first'],
  'too-many-passwords': [429, 'too many wrong passwords: wait a quarter of an hour'],
  // Of what is there.
  'no-such-thing': [404, 'there is no such {what}'],
  'no-such-water': [404, 'there is no water "{water}"'],
  'no-such-route': [404, 'there is no {route}'],
  'pages-not-built': [404, 'the pages are not built yet: start with ./shoal'],
  'no-certificate': [404, 'there is no certificate of our own making'],
  'nothing-to-export': [404, '{water} has nothing for {file} yet'],
  'species-unknown': [400, 'species "{species}" is not known on this water; known are {known}'],
  'name-taken': [409, 'name "{name}" is taken by another water'],
  'gear-taken': [409, 'there is a {kind} called "{name}" already'],
  'spot-taken': [409, 'another spot of this water is called "{name}"'],
  'name-taken-since': [409, 'another one has this name now: rename that one first'],
  'lies-in-trash': [409, 'lies in the trash: take it out there first'],
  'key-taken': [409, 'another record of this trip has the same key'],
  'not-within-trip': [409, 'this moment does not lie within the trip'],
  'trip-taken': [409, 'another trip has the same key and start'],
  'belongs-elsewhere': [409, 'this id belongs to a record elsewhere'],
  'changed-elsewhere': [409, 'this record was changed elsewhere meanwhile'],
  'folder-unusable': [400, 'the folder {reason}'],
  // Of the server.
  'disk-full': [507, 'disk full: nothing new is saved; what you mark stays on the device until there is room'],
  'database-away': [503, 'the database is starting again: nothing was stored, try again'],
  'server-failed': [500, 'something failed in the server; nothing was stored'],
} as const satisfies Record<string, readonly [status: number, detail: string]>;

export type ProblemCode = keyof typeof PROBLEMS;
export type ProblemValues = Record<string, string | number>;

/**
 * Why a request was not done, as RFC 9457 has it (`application/problem+json`). `code` and `values` are for a page that
 * words them; `title` and `detail` are English, for whoever reads the interface itself.
 */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
  code: ProblemCode;
  values: ProblemValues;
  /** The field that is wrong, as a path: contacts[2].notes */
  field?: string;
}

/**
 * A problem with its words.
 * @example problem('name-taken', { name: 'Slope mere' }, 'name').detail // 'name "Slope mere" is taken by another water'
 */
export function problem(code: ProblemCode, values: ProblemValues = {}, field?: string): Problem {
  const [status, detail] = PROBLEMS[code];
  const all: ProblemValues = field === undefined ? values : { field, ...values };
  return {
    type: `/api/openapi.json#/x-problems/${code}`,
    title: code.replaceAll('-', ' '),
    status,
    detail: detail.replace(/\{(\w+)\}/g, (_, name: string) => String(all[name] ?? '')).trim(),
    code,
    values,
    ...(field === undefined ? {} : { field }),
  };
}

/** Which rule of a schema was broken, by the name that it has there. */
const RULES: Record<string, ProblemCode> = {
  required: 'field-missing',
  optionality: 'field-missing',
  nullable: 'field-missing',
  typeError: 'field-wrong-type',
  oneOf: 'field-none-of',
  noUnknown: 'field-unknown',
  range: 'field-out-of-range',
  integer: 'field-not-whole',
  min: 'field-empty',
  max: 'field-too-long',
};

/** What a schema refused, as a problem with its field. @param at where the refused value stands in the request */
export function problemOfField(error: ValidationError, at?: string): Problem {
  // Where all rules of a record are asked, the first that is broken is told.
  const [first = error] = error.inner;
  const { min, max, values, unknown } = (first.params ?? {}) as { min?: number; max?: number; values?: unknown; unknown?: string };
  const code = RULES[first.type ?? ''] ?? 'field-wrong';
  const field = [at, code === 'field-unknown' ? unknown : first.path].filter(Boolean).join('.') || undefined;
  const reason = first.message;
  if (field === undefined) return problem('request-wrong', { reason });
  if (code === 'field-out-of-range') return problem(code, { min: min!, max: max! }, field);
  if (code === 'field-none-of') return problem(code, { options: [values].flat().filter(Boolean).join(', ') }, field);
  return problem(code, { reason, ...(max === undefined ? {} : { max }) }, field);
}
