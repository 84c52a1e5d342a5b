import { Validator } from '@seriousme/openapi-schema-validator';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect } from 'chai';
import fc from 'fast-check';
import type { Schema } from 'yup';
import { addressOf, jsonSchema, openApi, problem, PROBLEMS, ROUTES, type Route, type RouteSpec } from '@restless-shoal/core/contract';
import { newId } from '@restless-shoal/core/logbook';
import { serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

const routes = Object.entries(ROUTES) as [Route, RouteSpec][];

describe('the contract', () => {
  it('is told as OpenAPI 3.1, with every route and every code of a problem', async () => {
    const { valid, errors } = await new Validator().validate(openApi());
    expect(valid, JSON.stringify(errors)).to.equal(true);
    const { paths } = openApi() as { paths: Record<string, Record<string, unknown>> };
    expect(Object.values(paths).flatMap((p) => Object.keys(p))).to.have.length(routes.length);
  });

  /** Bodies that are nearly right: each field of a good one left out, or put for something else. */
  const good: [Route, Record<string, unknown>][] = [
    ['PUT /trips/:trip/contacts/:id', { time: '2026-05-02T06:00:00Z', latitude: 48.2, longitude: -34.6, kind: 'fish', count: 3, top_m: 2 }],
    ['PUT /waters/:water', { name: 'Slope mere', deepest_m: 12, latitude: null, forage: ['roach'] }],
    ['PUT /backups', { folder: '/media/stick', keep: 3, daily: true }],
    ['POST /waters/:water/plan', { places: [{ id: newId(), name: 'Bar', latitude: 1, longitude: 2, depth_m: 3 }] }],
  ];
  for (const [route, body] of good)
    it(`${route}: its JSON Schema refuses no body that its own schema takes`, () => {
      const { takes } = ROUTES[route] as RouteSpec & { takes: Schema };
      const described = new Ajv2020({ strict: false, validateFormats: false }).compile(jsonSchema(takes.describe()));
      expect(takes.isValidSync(body)).to.equal(true);
      let refused = 0;
      const other = fc.oneof(
        fc.double(),
        fc.string(),
        fc.constant(null),
        fc.boolean(),
        fc.constant([]),
        fc.constant(-1),
        fc.constant('fish'),
      );
      fc.assert(
        fc.property(fc.constantFrom(...Object.keys(body), 'stranger'), other, fc.boolean(), (field, value, gone) => {
          const { [field]: _, ...rest } = body;
          const tried = gone ? rest : { ...rest, [field]: value };
          if (takes.isValidSync(tried)) expect(described(tried), JSON.stringify([tried, described.errors])).to.equal(true);
          else refused++;
        }),
        { numRuns: 400, examples: Object.keys(body).map((field): [string, null, boolean] => [field, null, true]) },
      );
      expect(refused).to.be.greaterThan(50);
      for (const [field, wrong] of [
        ['stranger', 1],
        ...Object.entries(body)
          .filter(([, v]) => typeof v === 'string')
          .map(([k]) => [k, 7]),
      ])
        expect(described({ ...body, [String(field)]: wrong }), `${field} = ${wrong}`).to.equal(false);
    });

  it('words every problem with what it is given, and keeps its values for the page', () => {
    for (const [code, [status, detail]] of Object.entries(PROBLEMS)) {
      const names = [...detail.matchAll(/\{(\w+)\}/g)].map(([, name]) => name);
      const values = Object.fromEntries(names.filter((n) => n !== 'field').map((n): [string, string] => [n, `<${n}>`]));
      const told = problem(code as keyof typeof PROBLEMS, values, names.includes('field') ? 'top_m' : undefined);
      expect(told.status).to.equal(status);
      expect(told.detail).to.not.match(/[{}]/);
      for (const value of Object.values(values)) expect(told.detail).to.include(value);
    }
  });
});

describe('the server and its contract', () => {
  const data = temporaryFolder();
  let server: RunningServer;
  before(async () => {
    server = await serve(data.path);
  });
  after(async () => {
    await server.stop();
    data.remove();
  });
  it('answers every route of it, and says of others that there are none', async () => {
    for (const [route, { takes, file, gives }] of routes) {
      // A server of its own machine has nobody sign in: listen.test.ts.
      if (gives === 'events' || route.includes('/session')) continue;
      const names = [...route.matchAll(/:(\w+)/g)].map(([, name]) => name);
      const [method, path] = addressOf(route, Object.fromEntries(names.map((name) => [name, newId()])) as never);
      const headers = { 'Content-Type': file ? 'application/octet-stream' : 'application/json' };
      const body = takes ? '{"stranger": 1}' : file ? 'a' : undefined;
      const response = await fetch(`${server.url}/api${path}`, { method, headers, body });
      const text = await response.text();
      expect(text, route).to.not.include('"code":"no-such-route"');
      expect(response.status, `${route}: ${text}`).to.be.lessThan(500);
      if (response.status >= 400) expect(response.headers.get('Content-Type'), route).to.include('application/problem+json');
    }
    const none = await fetch(`${server.url}/api/waters/${newId()}/nothing`);
    expect(none.status).to.equal(404);
    expect(await none.json()).to.include({ code: 'no-such-route' });
    const described = (await (await fetch(`${server.url}/api/openapi.json`)).json()) as unknown;
    expect(described).to.deep.equal(JSON.parse(JSON.stringify(openApi())));
  });
  it('names the field, the rule and its limits', async () => {
    const put = async (body: object): Promise<unknown> =>
      (
        await fetch(`${server.url}/api/waters/${newId()}`, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify(body),
        })
      ).json();
    expect(await put({ name: 'A', deepest_m: 5000 })).to.deep.include({
      code: 'field-out-of-range',
      field: 'deepest_m',
      values: { min: 0.3, max: 1700 },
      detail: 'deepest_m is impossible: it must be from 0.3 to 1700',
    });
    expect(await put({})).to.deep.include({ code: 'field-missing', field: 'name' });
    expect(await put({ name: 'A', colour: 'blue' })).to.deep.include({ code: 'field-unknown', field: 'colour' });
  });
});
