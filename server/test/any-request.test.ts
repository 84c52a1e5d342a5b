import { expect } from 'chai';
import { PROBLEMS } from '@restless-shoal/core/contract';
import fc from 'fast-check';
import { newId } from '@restless-shoal/core/logbook';
import { serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { bent, BODIES, contact, filled as fill, JUNK, READ, SEGMENTS, WAYS } from '../../e2e/any-request';

// Whatever is asked: an answer that says what is wrong, never a fault of ours, and nothing lost by it.

let server: RunningServer;
const data = temporaryFolder();
const there = { water: newId(), trip: newId(), mark: newId() };
const filled = (path: string, any: string): string => fill(path, there, any);

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

/** No fault of ours, and where it was refused it says why in words. */
function expectSaid(asked: string, { status, text }: Answer): void {
  expect(status, `${asked}: ${text}`).to.be.within(200, 499);
  if (status < 400) return;
  const { detail, code, title } = JSON.parse(text) as { detail: string; code: string; title: string };
  expect(PROBLEMS, asked).to.have.property(code);
  expect(title, asked).to.be.a('string').and.not.equal('');
  expect(detail, asked).to.be.a('string').and.not.equal('');
  expect(detail, asked).to.not.match(/\b(TypeError|undefined|SQL|syntax|at Object|null value)\b/);
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
          fc.constantFrom(...BODIES),
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
    const { contacts } = JSON.parse((await send('GET', `/trips/${there.trip}`)).text) as { contacts: (typeof contact & { id: string })[] };
    const own = contacts.find((c) => c.id === there.mark)!;
    expect(own).to.include({ kind: 'fish', species: 'zander', confidence: 0.7, count: 2, top_m: 3.2, bottom_m: 4.1 });
  });
});
