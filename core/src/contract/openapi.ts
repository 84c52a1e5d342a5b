import type { SchemaDescription, SchemaFieldDescription, SchemaInnerTypeDescription, SchemaObjectDescription } from 'yup';
import { PROBLEMS } from './problem';
import { ROUTES, type RouteSpec } from './routes';

type Json = Record<string, unknown>;

/** A schema in the words of JSON Schema 2020-12, as far as those go: tests of two fields against each other have none. */
export function jsonSchema(said: SchemaFieldDescription): Json {
  const { type, nullable, tests, oneOf } = said as SchemaDescription;
  const out: Json = {};
  const param = (test: string, name: string): unknown => tests?.find((t) => t.name === test)?.params?.[name];
  if (type === 'object') {
    const { fields } = said as SchemaObjectDescription;
    const entries = Object.entries(fields ?? {});
    out.type = 'object';
    if (entries.length) out.properties = Object.fromEntries(entries.map(([name, field]) => [name, jsonSchema(field)]));
    const needed = entries.filter(([, field]) => !(field as SchemaDescription).optional).map(([name]) => name);
    if (needed.length) out.required = needed;
    if (tests?.some((t) => t.name === 'noUnknown')) out.additionalProperties = false;
  } else if (type === 'array' || type === 'tuple') {
    const { innerType } = said as SchemaInnerTypeDescription;
    out.type = 'array';
    if (Array.isArray(innerType)) Object.assign(out, { prefixItems: innerType.map((inner) => jsonSchema(inner)), items: false });
    else if (innerType) out.items = jsonSchema(innerType);
    for (const [test, key] of [
      ['min', 'minItems'],
      ['max', 'maxItems'],
    ])
      if (param(test, test) !== undefined) out[key] = param(test, test);
  } else if (type === 'number') {
    out.type = tests?.some((t) => t.name === 'integer') ? 'integer' : 'number';
    if (param('range', 'min') !== undefined) Object.assign(out, { minimum: param('range', 'min'), maximum: param('range', 'max') });
  } else if (type === 'string') {
    out.type = 'string';
    if (param('min', 'min') !== undefined) out.minLength = param('min', 'min');
    if (param('max', 'max') !== undefined) out.maxLength = param('max', 'max');
    if (tests?.some((t) => t.name === 'time')) out.format = 'date-time';
    if (tests?.some((t) => t.name === 'uuid')) out.format = 'uuid';
  } else if (type === 'boolean') out.type = 'boolean';
  const choices = (oneOf ?? []).filter((o) => o !== null);
  if (choices.length) out.enum = nullable ? [...choices, null] : choices;
  if (nullable && out.type) out.type = [out.type, 'null'];
  return out;
}

const KINDS = {
  bytes: 'application/octet-stream',
  events: 'text/event-stream',
  file: 'application/octet-stream',
  json: 'application/json',
};

/** The HTTP interface as OpenAPI 3.1, made from the routes and their schemas. */
export function openApi(): Json {
  const paths: Record<string, Json> = {};
  for (const [route, spec] of Object.entries(ROUTES) as [string, RouteSpec][]) {
    const [method, path] = route.split(' ');
    const names = [...path.matchAll(/:(\w+)/g)].map(([, name]) => name);
    const operation: Json = {
      summary: spec.says,
      operationId: route
        .replace(/[^A-Za-z]+/g, ' ')
        .trim()
        .replace(/ (\w)/g, (_, letter: string) => letter.toUpperCase()),
      parameters: [
        ...names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
        ...(spec.query ?? []).map((name) => ({ name, in: 'query', schema: { type: 'string' } })),
      ],
      responses: {
        [spec.status ?? 200]: { description: 'Done.', content: { [KINDS[spec.gives ?? 'json']]: {} } },
        default: {
          description: 'Not done.',
          content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
        },
      },
    };
    if (spec.takes)
      operation.requestBody = { required: true, content: { 'application/json': { schema: jsonSchema(spec.takes.describe()) } } };
    if (spec.file) operation.requestBody = { required: true, content: { 'application/octet-stream': {} } };
    (paths[path.replace(/:(\w+)/g, '{$1}')] ??= {})[method.toLowerCase()] = operation;
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Restless Shoal', version: '1', description: 'Depths in m, times in UTC, temperatures in °C; see docs/formats.md.' },
    servers: [{ url: '/api' }],
    paths,
    components: {
      schemas: {
        Problem: {
          type: 'object',
          description: 'RFC 9457. What its code means for the values stands in x-problems.',
          properties: {
            type: { type: 'string' },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            code: { enum: Object.keys(PROBLEMS) },
            values: { type: 'object' },
            field: { type: 'string' },
          },
          required: ['type', 'title', 'status', 'detail', 'code', 'values'],
        },
      },
    },
    'x-problems': PROBLEMS,
  };
}
