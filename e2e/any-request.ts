import fc from 'fast-check';
import { newId } from '@restless-shoal/core/logbook';
import { square } from '../server/test/square';

const at = { time: '2026-06-14T08:00:00Z', latitude: 48.003, longitude: -33.995 };
export const contact = { ...at, kind: 'fish', species: 'zander', confidence: 0.7, count: 2, top_m: 3.2, bottom_m: 4.1, water_depth_m: 5 };

type Body = Record<string, unknown> | unknown[];
/** Every way to write, with a body that is right. Those that would start an hour of work, or a device, come without. */
export const WAYS: [method: string, path: string, body: Body | null][] = [
  ['PUT', `/waters/{water}`, { name: 'Test mere', outline: square, time_zone: 'Etc/GMT+2', altitude_m: 310, forage: ['smelt'] }],
  ['PUT', `/waters/{water}/rules`, { lightBase: 1, lightFactor: 2, clearFrom: 4 }],
  ['PUT', `/waters/{water}/species/zander`, null],
  ['PUT', `/waters/{water}/outline`, { outline: square }],
  ['PUT', `/waters/{water}/cleaning`, { jumps: true, transducer_m: 0.3 }],
  ['PUT', `/waters/{water}/tide`, { mean_m: 2, constants: [{ name: 'M2', amplitude_m: 1.1, phase_deg: 150 }], turns: [], stream: [] }],
  ['DELETE', `/waters/{water}/tide`, null],
  ['POST', `/waters/{water}/cover`, { kind: 'cover', cover: 'brush', geometry: { type: 'Point', coordinates: [-33.995, 48.003] } }],
  ['DELETE', `/waters/{water}/cover/{any}`, null],
  ['POST', `/waters/{water}/plan`, { places: [{ id: newId(), name: 'Hump', latitude: 48.003, longitude: -33.995, depth_m: 4 }] }],
  ['DELETE', `/waters/{water}/plan/{any}`, null],
  ['POST', `/waters/{water}/models`, null],
  ['POST', `/waters/{water}/simulated-boat`, null],
  ['PUT', `/waters/{water}/trips/{trip}`, { trip: 'A', start: '2026-06-14T06:00:00Z', purpose: 'scout' }],
  ['DELETE', `/waters/{water}/trips/{any}`, null],
  ['PUT', `/trips/{trip}/contacts/{mark}`, contact],
  [
    'PUT',
    `/trips/{trip}/stops/{any}`,
    { stop: 'S1', start: at.time, end: '2026-06-14T08:20:00Z', latitude: 48.003, longitude: -33.995, rods: 2 },
  ],
  ['PUT', `/trips/{trip}/responses/{any}`, { time: at.time, response: 'landed', species: 'perch', length_m: 0.3 }],
  ['DELETE', `/trips/{trip}/contacts/{any}`, null],
  ['POST', `/trips/{trip}/contacts/{any}/restore`, null],
  ['POST', `/trips/{trip}/track`, [{ ...at, mode: 'scan', view: 'side-scan', port_range_m: 20 }]],
  ['PUT', `/trips/{trip}/track/mode`, { from: at.time, to: at.time, mode: 'scan' }],
  ['POST', `/trips/{trip}/conditions`, { time: at.time, surface_temperature_c: 17.2, wind_from_deg: 250, wind_speed_ms: 4 }],
  ['POST', `/trips/{trip}/profiles`, [{ profile: 'P', time: at.time, depth_m: 3, temperature_c: 15 }]],
  [
    'PUT',
    `/trips/{trip}/outlooks/{any}`,
    { species: 'zander', at: 1, columns: [1], rows: [1], chances: [0.2], places: [{ name: 'Hump', chance: 0.3, cells: [[1, 1]] }] },
  ],
  ['DELETE', `/waters/{water}/cover?source=nobody`, null],
  ['POST', `/imports`, null],
  ['PUT', `/feed`, null],
  ['DELETE', `/jobs/{any}`, null],
];
export const READ = [
  ...[
    '',
    '/chart',
    '/log',
    '/contacts',
    '/looks',
    '/looked-at',
    '/logbook',
    '/jobs',
    '/plan',
    '/day-plan',
    '/surveys',
    '/outcomes',
    '/soundings',
  ].map((part) => `/waters/{water}${part}`),
  '/waters/{water}/soundings?survey=x&from=y',
  '/waters/{water}/models/{any}',
  '/waters/{water}/models/zander/scores',
  '/waters/{water}/export/{any}',
  '/trips/{trip}',
  '/jobs/{any}',
  '/feed/truth?at=x',
  '/reach',
];

export const SEGMENTS = ['%00', '..%2F..%2Fetc', '%F0%9F%90%9F', "x'%3B--", '0', 'null', 'a'.repeat(3000), '%ff', newId(), '1e9', '{}'];
export const JUNK = fc.oneof(
  fc.jsonValue({ maxDepth: 2 }),
  fc.constantFrom(
    null,
    '',
    '\u0000',
    '\ud800',
    -1,
    1e308,
    5e-324,
    'x'.repeat(5000),
    [],
    {},
    [[]],
    { length: 3 },
    '2026-13-45T99:00:00Z',
    true,
  ),
);

/** A body with one of its fields, however deep, replaced, taken away or added. */
export const bent = (body: Body): fc.Arbitrary<unknown> =>
  fc
    .tuple(fc.array(fc.nat(20), { minLength: 1, maxLength: 4 }), JUNK, fc.constantFrom('replace', 'drop', 'add'))
    .map(([way, junk, how]) => {
      const copy = structuredClone(body) as Record<string, unknown>;
      let inner: Record<string, unknown> = copy;
      for (let k = 0; ; k++) {
        const keys = Object.keys(inner);
        const key = keys[way[k] % Math.max(1, keys.length)];
        const next = inner[key];
        if (k < way.length - 1 && typeof next === 'object' && next !== null && Object.keys(next).length) {
          inner = next as Record<string, unknown>;
          continue;
        }
        if (how === 'add') inner[`new ${key}`] = junk;
        else if (how === 'drop') delete inner[key];
        else inner[key] = junk;
        return copy;
      }
    });

/** What there is on a server that is asked at random. */
export interface There {
  water: string;
  trip: string;
  mark: string;
}

export const filled = (path: string, { water, trip, mark }: There, any: string): string =>
  path.replace('{water}', water).replace('{trip}', trip).replace('{mark}', mark).replace('{any}', any);

/** Bodies that are no JSON, or none that anything is made of. */
export const BODIES = [
  '',
  '{',
  '{"a":',
  '[1,',
  '\u0000',
  '"',
  '{"__proto__":{"x":1}}',
  '[null]',
  '[[[[[[]]]]]]',
  '['.repeat(50_000) + ']'.repeat(50_000),
];

/** A request of any kind: right, bent somewhere, with any body, at any address. */
export const anyRequest = (there: There): fc.Arbitrary<{ method: string; path: string; body?: string }> => {
  const some = fc.oneof({ arbitrary: fc.constantFrom(...SEGMENTS), weight: 1 }, { arbitrary: fc.uuid(), weight: 1 });
  const write = fc.constantFrom(...WAYS.filter(([, , body]) => body)).chain(([method, path, body]) =>
    fc.record({
      method: fc.constant(method),
      path: some.map((any) => filled(path, there, any)),
      body: fc.oneof(bent(body!), fc.constant(body)).map((b) => JSON.stringify(b)),
    }),
  );
  const junk = fc.record({
    // What is there stays there: nothing of it is deleted.
    method: fc.constantFrom('PUT', 'POST'),
    path: fc.tuple(fc.constantFrom(...WAYS.map(([, path]) => path)), some).map(([path, any]) => filled(path, there, any)),
    body: fc.oneof(
      JUNK.map((v) => JSON.stringify(v)),
      fc.constantFrom(...BODIES),
    ),
  });
  const read = fc.record({
    method: fc.constant('GET'),
    path: fc
      .tuple(fc.constantFrom(...READ), some, fc.boolean())
      .map(([path, any, all]) => (all ? path.replaceAll(/\{\w+\}/g, any) : filled(path, there, any))),
  });
  return fc.oneof({ arbitrary: write, weight: 5 }, { arbitrary: junk, weight: 2 }, { arbitrary: read, weight: 3 });
};
