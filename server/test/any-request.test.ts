import { expect } from 'chai';
import fc from 'fast-check';
import { newId } from '@restless-shoal/core/logbook';
import { serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { square } from './square';

// Whatever is asked: an answer that says what is wrong, never a fault of ours, and nothing lost by it.

let server: RunningServer;
const data = temporaryFolder();
const [water, trip, mark] = [newId(), newId(), newId()];

interface Answer {
  status: number;
  text: string;
}

async function send(method: string, path: string, body?: string): Promise<Answer> {
  const response = await fetch(`${server.url}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body,
    signal: AbortSignal.timeout(20_000),
  });
  return { status: response.status, text: await response.text() };
}

const at = { time: '2026-06-14T08:00:00Z', latitude: 48.003, longitude: -33.995 };
const contact = { ...at, kind: 'fish', species: 'zander', confidence: 0.7, count: 2, top_m: 3.2, bottom_m: 4.1, water_depth_m: 5 };

type Body = Record<string, unknown> | unknown[];
/** Every way to write, with a body that is right. Those that would start an hour of work, or a device, come without. */
const WAYS: [method: string, path: string, body: Body | null][] = [
  ['PUT', `/waters/{water}`, { name: 'Test mere', outline: square, time_zone: 'Etc/GMT+2', altitude_m: 310, forage: ['smelt'] }],
  ['PUT', `/waters/{water}/rules`, { lightBase: 1, lightFactor: 2, clearFrom: 4 }],
  ['PUT', `/waters/{water}/species/zander`, null],
  ['PUT', `/waters/{water}/outline`, { outline: square }],
  ['PUT', `/waters/{water}/cleaning`, { jumps: true, transducer_m: 0.3 }],
  ['POST', `/waters/{water}/cover`, { kind: 'cover', cover: 'brush', geometry: { type: 'Point', coordinates: [-33.995, 48.003] } }],
  ['DELETE', `/waters/{water}/cover/{any}`, null],
  ['POST', `/waters/{water}/plan`, { places: [{ id: newId(), name: 'Hump', latitude: 48.003, longitude: -33.995, depth_m: 4 }] }],
  ['DELETE', `/waters/{water}/plan/{any}`, null],
  ['POST', `/waters/{water}/models`, null],
  ['POST', `/waters/{water}/scores`, null],
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
  ['POST', `/imports`, null],
  ['PUT', `/feed`, null],
  ['DELETE', `/jobs/{any}`, null],
];
const READ = [
  ...['', '/chart', '/log', '/contacts', '/looks', '/logbook', '/jobs', '/plan', '/surveys', '/outcomes', '/soundings'].map(
    (part) => `/waters/{water}${part}`,
  ),
  '/waters/{water}/soundings?survey=x&from=y',
  '/waters/{water}/models/{any}',
  '/waters/{water}/models/zander/scores',
  '/waters/{water}/export/{any}',
  '/trips/{trip}',
  '/jobs/{any}',
  '/feed/truth?at=x',
  '/reach',
];

const SEGMENTS = ['%00', '..%2F..%2Fetc', '%F0%9F%90%9F', "x'%3B--", '0', 'null', 'a'.repeat(3000), '%ff', newId(), '1e9', '{}'];
const JUNK = fc.oneof(
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
const bent = (body: Body): fc.Arbitrary<unknown> =>
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

const filled = (path: string, any: string): string =>
  path.replace('{water}', water).replace('{trip}', trip).replace('{mark}', mark).replace('{any}', any);

/** No fault of ours, and where it was refused it says why in words. */
function expectSaid(asked: string, { status, text }: Answer): void {
  expect(status, `${asked}: ${text}`).to.be.within(200, 499);
  if (status < 400) return;
  const { error } = JSON.parse(text) as { error: string };
  expect(error, asked).to.be.a('string').and.not.equal('');
  expect(error, asked).to.not.match(/\b(TypeError|undefined|SQL|syntax|at Object|null value)\b/);
}

before(async () => {
  server = await serve(data.path);
  for (const path of ['/waters/{water}', '/waters/{water}/trips/{trip}', '/trips/{trip}/contacts/{mark}']) {
    const [method, , body] = WAYS.find(([, p]) => p === path)!;
    expect((await send(method, filled(path, ''), JSON.stringify(body))).status).to.equal(201);
  }
});
after(async () => {
  await server.stop();
  data.remove();
});

describe('any request', () => {
  it('with a body that is right is taken', async () => {
    for (const [method, path, body] of WAYS)
      if (body)
        expect((await send(method, filled(path, newId()), JSON.stringify(body))).status, `${method} ${path}`).to.be.within(200, 202);
  });
  it('with a body that is bent somewhere is taken or refused in words', () =>
    fc.assert(
      fc.asyncProperty(
        fc
          .constantFrom(...WAYS.filter(([, , body]) => body))
          .chain(([method, path, body]) => fc.tuple(fc.constant([method, path]), bent(body!))),
        async ([[method, path], body]) => {
          const text = JSON.stringify(body);
          expectSaid(`${method} ${path} ${text}`, await send(method, filled(path, newId()), text));
        },
      ),
      { numRuns: 500 },
    ));
  it('with any body at all is taken or refused in words', () =>
    fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...WAYS.filter(([method]) => method !== 'DELETE')),
        fc.oneof(
          JUNK.map((v) => JSON.stringify(v)),
          fc.constantFrom(
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
          ),
        ),
        async ([method, path], text) => expectSaid(`${method} ${path} ${text}`, await send(method, filled(path, newId()), text)),
      ),
      { numRuns: 300 },
    ));
  it('at any address is answered or refused in words', async () => {
    for (const segment of SEGMENTS)
      for (const [method, path] of [...WAYS, ...READ.map((p): [string, string] => ['GET', p])]) {
        const whole = path.replaceAll(/\{\w+\}/g, segment);
        expectSaid(`${method} ${whole}`, await send(method, whole, method === 'GET' ? undefined : '{}'));
        if (path.includes('{any}')) {
          const inner = filled(path, segment);
          expectSaid(`${method} ${inner}`, await send(method, inner, method === 'GET' ? undefined : '{}'));
        }
      }
  });
  it('leaves the log as it stands: all can still be read, and what was written last is there', async () => {
    for (const path of ['/waters/{water}', '/waters/{water}/trips/{trip}', '/trips/{trip}/contacts/{mark}']) {
      const [method, , body] = WAYS.find(([, p]) => p === path)!;
      expect((await send(method, filled(path, ''), JSON.stringify(body))).status).to.equal(200);
    }
    for (const path of READ.filter((p) => !p.includes('{any}') && !p.includes('?'))) {
      const { status } = await send('GET', filled(path, ''));
      expect(status, path).to.be.oneOf([200, 204]);
    }
    const { contacts } = JSON.parse((await send('GET', `/trips/${trip}`)).text) as { contacts: (typeof contact & { id: string })[] };
    const own = contacts.find((c) => c.id === mark)!;
    expect(own).to.include({ kind: 'fish', species: 'zander', confidence: 0.7, count: 2, top_m: 3.2, bottom_m: 4.1 });
  });
});
