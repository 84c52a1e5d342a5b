import { expect } from 'chai';
import { request } from 'node:http';
import type { LookedAt } from '@restless-shoal/core/forecast';
import { newId } from '@restless-shoal/core/logbook';
import { unpackLogbook } from '@restless-shoal/core/patterns';
import { serve, temporaryFolder, type RunningServer } from '../../e2e/harness';
import { square } from './square';

let server: RunningServer;
const data = temporaryFolder();
const water = newId();
const trip = newId();

before(async () => {
  server = await serve(data.path);
});
after(async () => {
  await server.stop();
  data.remove();
});

async function send(method: string, path: string, body?: unknown): Promise<{ status: number; body: Record<string, unknown> & unknown[] }> {
  for (let left = 60; ; left--) {
    const response = await fetch(`${server.url}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const answer = { status: response.status, body: response.status === 204 ? {} : await response.json() } as never;
    // What is still being worked out from the log is asked for again until it is there.
    if (left === 0 || response.headers.get('X-Deriving') !== 'true') return answer;
    await new Promise((done) => setTimeout(done, 500));
  }
}

/** A request with headers that fetch would not let us set. */
function raw(method: string, path: string, headers: Record<string, string>): Promise<number> {
  const { hostname, port } = new URL(server.url);
  return new Promise((done) => {
    const r = request({ hostname, port, path, method, headers }, (response) => {
      response.resume();
      done(response.statusCode!);
    });
    r.end();
  });
}

const at = { time: '2026-06-14T08:00:00Z', latitude: 48.003, longitude: -33.995 };

describe('the local server', () => {
  it('makes a water and a trip under the ids the client chose', async () => {
    expect((await send('PUT', `/waters/${water}`, { name: 'Test mere', outline: square, time_zone: 'Etc/GMT+2' })).status).to.equal(201);
    expect((await send('PUT', `/waters/${water}/trips/${trip}`, { trip: 'A', start: '2026-06-14T06:00:00Z' })).status).to.equal(201);
    expect((await send('GET', `/waters/${water}`)).body).to.include({ name: 'Test mere', epsg: 32625 });
    expect((await send('GET', `/waters/${water}/chart`)).status).to.equal(204);
  });

  it('answers to its own address only: no other host, no other origin', async () => {
    const { port } = new URL(server.url);
    const own = { Host: `127.0.0.1:${port}` };
    expect(await raw('GET', '/api/waters', own)).to.equal(200);
    expect(await raw('GET', '/api/waters', { Host: `localhost:${port}`, Origin: `http://localhost:${port}` })).to.equal(200);
    expect(await raw('GET', '/api/waters', { Host: 'rebound.example' })).to.equal(403);
    expect(await raw('GET', '/api/waters', { ...own, Origin: 'http://other.example' })).to.equal(403);
    expect(await raw('GET', '/api/waters', { ...own, Origin: 'null' })).to.equal(403);
    expect(
      await raw('POST', `/api/trips/${trip}/track`, {
        ...own,
        Origin: `http://127.0.0.1:${Number(port) + 1}`,
        'Content-Type': 'application/json',
      }),
    ).to.equal(403);
    expect(await raw('GET', '/api/waters', { ...own, 'Sec-Fetch-Site': 'cross-site', 'Sec-Fetch-Mode': 'no-cors' })).to.equal(403);
    expect(await raw('POST', `/api/trips/${trip}/track`, { ...own, 'Content-Type': 'text/plain' })).to.equal(415);
    const response = await fetch(`${server.url}/api/waters`);
    expect(response.headers.get('access-control-allow-origin')).to.equal(null);
  });

  it('takes the same contact sent twice, also at once, as one; other content is an edit', async () => {
    const id = newId();
    const contact = { ...at, kind: 'fish', species: 'zander', contact: id, count: 3, top_m: 4.5, bottom_m: 5.5 };
    const answers = await Promise.all([1, 2, 3, 4].map(() => send('PUT', `/trips/${trip}/contacts/${id}`, contact)));
    expect(answers.map((a) => a.body.done).sort()).to.deep.equal(['added', 'same', 'same', 'same']);
    expect((await send('PUT', `/trips/${trip}/contacts/${id}`, { ...contact, count: 4 })).body.done).to.equal('changed');
    const stored = (await send('GET', `/trips/${trip}`)).body as unknown as { contacts: { id: string; count: number }[] };
    expect(stored.contacts.map((c) => [c.id, c.count])).to.deep.equal([[id, 4]]);
    const again = await send('PUT', `/trips/${trip}/contacts/${newId()}`, contact);
    expect(again.status).to.equal(409);
  });

  it('knows the species of its log, most seen first, those that were only caught and never marked too', async () => {
    const own = newId();
    expect((await send('PUT', `/waters/${own}`, { name: 'Caught mere', outline: square, time_zone: 'Etc/GMT+2' })).status).to.equal(201);
    const trip = newId();
    await send('PUT', `/waters/${own}/trips/${trip}`, { trip: 'B', start: '2026-06-14T06:00:00Z' });
    const logged = async (): Promise<unknown> => (await send('GET', `/waters/${own}`)).body.logged;
    expect(await logged()).to.deep.equal([]);
    await send('PUT', `/trips/${trip}/stops/${newId()}`, { ...at, stop: 'S', start: at.time, end: '2026-06-14T08:20:00Z' });
    for (const [minute, species, contact] of [
      [1, 'perch', null],
      [2, 'pikeperch', null],
      [3, 'zander', null],
      // Of a mark that is counted already.
      [4, 'perch', 'M'],
    ] as const) {
      const response = { time: `2026-06-14T08:0${minute}:00Z`, response: 'landed', stop: 'S', species, contact };
      expect((await send('PUT', `/trips/${trip}/responses/${newId()}`, response)).status).to.equal(201);
    }
    expect(await logged()).to.deep.equal(['zander', 'perch']);
  });
  it('deletes softly and brings back', async () => {
    const id = newId();
    await send('PUT', `/trips/${trip}/contacts/${id}`, { ...at, time: '2026-06-14T08:05:00Z', kind: 'bait', contact: id });
    const count = async (): Promise<number> => ((await send('GET', `/waters/${water}/contacts`)).body as unknown[]).length;
    const onTrip = async (): Promise<string[]> =>
      ((await send('GET', `/trips/${trip}`)).body as unknown as { contacts: { id: string }[] }).contacts.map((c) => c.id);
    const before = await count();
    expect(await onTrip()).to.include(id);
    expect((await send('DELETE', `/trips/${trip}/contacts/${id}`)).body.done).to.equal('deleted');
    expect(await count()).to.equal(before - 1);
    expect(await onTrip()).to.not.include(id);
    expect((await send('POST', `/trips/${trip}/contacts/${id}/restore`, {})).body.done).to.equal('restored');
    expect(await count()).to.equal(before);
  });

  it('refuses an edit of what another device changed meanwhile, and takes one that is the same', async () => {
    const [own, id] = [newId(), newId()];
    await send('PUT', `/waters/${water}/trips/${own}`, { trip: 'C', start: '2026-06-16T06:00:00Z' });
    const put = (count: number, base?: number) =>
      send('PUT', `/trips/${own}/contacts/${id}${base === undefined ? '' : `?base=${base}`}`, { ...at, kind: 'fish', count });
    const stored = async (): Promise<{ count: number; version: number }> =>
      ((await send('GET', `/trips/${own}`)).body as unknown as { contacts: { count: number; version: number }[] }).contacts[0];
    await put(1);
    const { version } = await stored();
    expect((await put(2, version)).status).to.equal(200);
    const late = await put(3, version);
    expect(late.status).to.equal(409);
    expect(late.body).to.deep.include({ code: 'changed-elsewhere', field: 'base', status: 409 });
    expect(await stored()).to.include({ count: 2, version: version + 1 });
    // Sent twice it is no conflict with itself, and without a base it goes over what is there.
    expect((await put(2, version)).status).to.equal(200);
    expect((await put(3)).status).to.equal(200);
    expect((await put(3, 1.5)).status).to.equal(400);
  });
  it('sets the mode of a stretch of the track right, also where a fix was sent again meanwhile', async () => {
    const own = newId();
    await send('PUT', `/waters/${water}/trips/${own}`, { trip: 'D', start: '2026-06-17T06:00:00Z' });
    const fix = (minute: number, mode: string) => ({ time: `2026-06-17T06:0${minute}:00Z`, latitude: 48.003, longitude: -33.995, mode });
    await send(
      'POST',
      `/trips/${own}/track`,
      [1, 2, 3, 4].map((m) => fix(m, 'scan')),
    );
    const modes = async (): Promise<string> =>
      ((await send('GET', `/trips/${own}`)).body as unknown as { track: { mode: string }[] }).track.map((f) => f.mode).join(' ');
    const correct = { from: '2026-06-17T06:02:00Z', to: '2026-06-17T06:03:00Z', mode: 'transit' };
    expect((await send('PUT', `/trips/${own}/track/mode`, correct)).body).to.deep.equal({ changed: 2 });
    expect(await modes()).to.equal('scan transit transit scan');
    await send('POST', `/trips/${own}/track`, [fix(2, 'scan')]);
    await send('PUT', `/trips/${own}/track/mode`, correct);
    expect(await modes()).to.equal('scan transit transit scan');
    for (const [change, field] of [
      [{ mode: 'flying' }, 'mode'],
      [{ from: 'yesterday' }, 'from'],
      [{ from: '2026-06-17T06:09:00Z' }, 'from'],
    ] as const)
      expect(await send('PUT', `/trips/${own}/track/mode`, { ...correct, ...change })).to.deep.include({ status: 400 }).and.have.nested.property('body.field', field); // prettier-ignore
  });
  it('throws a trip away with all that was logged on it, once', async () => {
    const own = newId();
    await send('PUT', `/waters/${water}/trips/${own}`, { trip: 'E', start: '2026-06-18T06:00:00Z' });
    await send('PUT', `/trips/${own}/contacts/${newId()}`, { ...at, kind: 'fish' });
    const contacts = async (): Promise<number> => ((await send('GET', `/waters/${water}/contacts`)).body as unknown[]).length;
    const before = await contacts();
    expect((await send('DELETE', `/waters/${water}/trips/${own}`)).body).to.include({ done: 'deleted' });
    expect((await send('DELETE', `/waters/${water}/trips/${own}`)).body).to.include({ done: 'same' });
    expect((await send('GET', `/trips/${own}`)).status).to.equal(404);
    expect(await contacts()).to.equal(before - 1);
  });
  it('learns a species it did not know', async () => {
    await send('PUT', `/trips/${trip}/contacts/${newId()}`, { ...at, time: '2026-06-14T08:06:00Z', kind: 'fish', species: 'Moonfin' });
    const species = ((await send('GET', `/waters/${water}`)).body.species as { name: string; guild: string }[]).find(
      (s) => s.name === 'moonfin',
    );
    expect(species).to.include({ guild: 'unknown' });
  });

  it('keeps the track and the readings once, however often they are sent', async () => {
    const fixes = [0, 5, 10].map((s) => ({
      time: `2026-06-14T08:00:${String(s).padStart(2, '0')}Z`,
      latitude: 48.003 + s / 1e5,
      longitude: -33.995,
      mode: 'scan',
      view: 'side-scan',
      port_range_m: 20,
      starboard_range_m: 20,
    }));
    expect((await send('POST', `/trips/${trip}/track`, fixes)).body.added).to.equal(3);
    expect((await send('POST', `/trips/${trip}/track`, fixes)).body.added).to.equal(0);
    const reading = { time: '2026-06-14T07:00:00Z', surface_temperature_c: 18.4 };
    expect((await send('POST', `/trips/${trip}/conditions`, reading)).body.added).to.equal(1);
    expect((await send('POST', `/trips/${trip}/conditions`, reading)).body.added).to.equal(0);
    const looks = (await send('GET', `/waters/${water}/looks`)).body as unknown as { looks: { kind: string; targets: unknown[] }[] }[];
    const targets = looks[0].looks.filter((l) => l.kind === 'scan').reduce((s, l) => s + l.targets.length, 0);
    expect(targets).to.equal(3);
  });

  it('gives the whole log in columns, again only when something in it has changed', async () => {
    const get = (): Promise<Response> => fetch(`${server.url}/api/waters/${water}/logbook`);
    const again = (tag: string): Promise<number> => {
      const own = { Host: `127.0.0.1:${new URL(server.url).port}` };
      return raw('GET', `/api/waters/${water}/logbook`, { ...own, 'If-None-Match': tag });
    };
    const answer = await get();
    const log = unpackLogbook(new Uint8Array(await answer.arrayBuffer()));
    const listed = (await send('GET', `/waters/${water}/contacts`)).body as unknown as { kind: string; trip_id: string; time: string }[];
    const plain = ({ kind, trip_id, time }: { kind: string; trip_id: string; time: string }) => ({ kind, trip_id, time });
    expect(log.contacts.map(plain)).to.deep.equal(listed.map(plain));
    const looks = log.trips.flatMap((t) => t.looks);
    expect(looks.length).to.be.above(0);
    const looked = (await send('GET', `/waters/${water}/looked-at`)).body as unknown as LookedAt;
    expect(looked.cells.reduce((sum, [, , n]) => sum + n, 0)).to.equal(looks.length);
    const tag = answer.headers.get('ETag')!;
    expect(await again(tag)).to.equal(304);
    const other = newId();
    const mark = { time: at.time, latitude: 48.01, longitude: -34, kind: 'bait' };
    await send('PUT', `/trips/${trip}/contacts/${other}`, mark);
    expect(await again(tag)).to.equal(200);
    expect(unpackLogbook(new Uint8Array(await (await get()).arrayBuffer())).contacts).to.have.length(listed.length + 1);
    await send('DELETE', `/trips/${trip}/contacts/${other}`);
    expect(unpackLogbook(new Uint8Array(await (await get()).arrayBuffer())).contacts).to.have.length(listed.length);
  });

  it('keeps a plan of places once, gives it in order, and takes places off it', async () => {
    const place = { id: newId(), name: 'Hump, 5.2 m', latitude: 48.01, longitude: -33.99, depth_m: 5.2, words: 'like the stop' };
    const two = [place, { id: newId(), name: 'Point', latitude: 48.02, longitude: -33.98 }];
    expect((await send('POST', `/waters/${water}/plan`, { places: two })).status).to.equal(201);
    await send('POST', `/waters/${water}/plan`, { places: two });
    const plan = async (): Promise<{ id: string; name: string; depth_m: number | null }[]> =>
      (await send('GET', `/waters/${water}/plan`)).body as unknown as { id: string; name: string; depth_m: number | null }[];
    expect((await plan()).map((p) => [p.name, p.depth_m])).to.deep.equal([
      ['Hump, 5.2 m', 5.2],
      ['Point', null],
    ]);
    for (const [places, field] of [
      [[{ ...place, latitude: 100 }], 'places[0].latitude'],
      [[{ ...place, name: '' }], 'places[0].name'],
      [[{ ...place, id: 'x' }], 'places[0].id'],
      [[], 'places'],
    ] as const) {
      const answer = await send('POST', `/waters/${water}/plan`, { places });
      expect([answer.status, answer.body.field]).to.deep.equal([400, field]);
    }
    expect((await send('DELETE', `/waters/${water}/plan/${place.id}`)).status).to.equal(200);
    // Sent twice, it changes nothing.
    expect((await send('DELETE', `/waters/${water}/plan/${place.id}`)).body).to.deep.equal({ done: 'same' });
    expect((await send('DELETE', `/waters/${water}/plan/any`)).status).to.equal(404);
    expect((await plan()).map((p) => p.name)).to.deep.equal(['Point']);
  });

  it('keeps an edited species profile and depth rule, and refuses impossible ones by field', async () => {
    const profile = ((await send('GET', `/waters/${water}`)).body.species as { name: string; leastOxygen: number }[]).find(
      (s) => s.name === 'pike',
    )!;
    const put = (change: object) => send('PUT', `/waters/${water}/species/pike`, { ...profile, ...change });
    expect((await put({ leastOxygen: 5.5 })).status).to.equal(200);
    for (const [change, field] of [
      [{ leastOxygen: -1 }, 'leastOxygen'],
      [{ preferred: [20, 10] }, 'preferred'],
      [{ upperAvoidance: 3 }, 'upperAvoidance'],
      [{ light: 'loud' }, 'light'],
      [{ name: 'perch' }, 'name'],
    ] as const) {
      const answer = await put(change);
      expect([answer.status, answer.body.field]).to.deep.equal([400, field]);
    }
    // A species of one's own; not under a name that another is found by.
    const own = { ...profile, name: 'moonfin', aliases: [], scientific: null };
    expect((await send('PUT', `/waters/${water}/species/moonfin`, own)).status).to.equal(200);
    const taken = await send('PUT', `/waters/${water}/species/pikeperch`, { ...own, name: 'pikeperch' });
    expect([taken.status, taken.body.field]).to.deep.equal([400, 'name']);
    expect((await send('PUT', `/waters/${water}/rules`, { lightBase: 1, lightFactor: 3, clearFrom: 4 })).status).to.equal(200);
    expect((await send('PUT', `/waters/${water}/rules`, { lightBase: -1, lightFactor: 3, clearFrom: 4 })).body.field).to.equal('lightBase');
    const after = (await send('GET', `/waters/${water}`)).body as unknown as {
      rules: object;
      species: { name: string; leastOxygen: number }[];
    };
    expect(after.rules).to.deep.equal({ lightBase: 1, lightFactor: 3, clearFrom: 4 });
    expect(after.species.find((s) => s.name === 'pike')!.leastOxygen).to.equal(5.5);
    expect(after.species.map((s) => s.name)).to.include.members(['moonfin', 'eel', 'zander']);
  });

  it('fits as a job: refused for an unknown species, its state asked for, cancelled', async () => {
    expect((await send('POST', `/waters/${water}/models`, { species: 'unicorn' })).status).to.equal(400);
    expect((await send('POST', `/waters/${water}/models`, { species: 5 })).body.field).to.equal('species');
    expect((await send('GET', `/waters/${water}/models/pike`)).status).to.equal(204);
    const wait = async (job: string): Promise<{ state: string; error: string | null }> => {
      for (;;) {
        const { body } = await send('GET', `/jobs/${job}`);
        const state = body as unknown as { state: string; error: string | null };
        if (!['waiting', 'running'].includes(state.state)) return state;
        await new Promise((done) => setTimeout(done, 200));
      }
    };
    const first = await send('POST', `/waters/${water}/models`, { species: 'pike' });
    expect(first.status).to.equal(202);
    expect((await send('GET', `/jobs/${newId()}`)).status).to.equal(404);
    expect((await send('GET', `/jobs/${'-'.repeat(36)}`)).status).to.equal(404);
    expect((await send('DELETE', `/jobs/${String(first.body.job)}`)).status).to.equal(200);
    expect((await wait(String(first.body.job))).state).to.be.oneOf(['cancelled', 'failed']);
  });

  it('takes no more at once than it can look through in a moment', async () => {
    for (const body of [Array.from({ length: 1_500_000 }, () => 1), Array.from({ length: 50_000 }, () => ({}))]) {
      const { status } = await send('POST', `/waters/${water}/plan`, { places: body });
      expect(status).to.equal(413);
    }
  });

  it('brings in the demo water that is named, as an import; one that there is not is refused', async () => {
    const refused = await send('POST', '/demo', { which: 'ocean' });
    expect(refused.status).to.equal(400);
    expect(JSON.stringify(refused.body)).to.include('which');
    const { status, body } = await send('POST', '/demo', { which: 'river' });
    expect([status, body.water]).to.deep.equal([202, 'Senn, long reach']);
    for (;;) {
      const job = (await send('GET', `/jobs/${String(body.job)}`)).body;
      if (job.state === 'done') break;
      expect(job.state, JSON.stringify(job)).to.be.oneOf(['waiting', 'running']);
      await new Promise((done) => setTimeout(done, 300));
    }
    const river = ((await send('GET', '/waters')).body as { name: string; kind: string; id: string }[]).find((w) => w.name === body.water)!;
    expect(river.kind).to.equal('river');
    await send('DELETE', `/waters/${river.id}`);
  });

  describe('refuses bad input, names the field and stores nothing', () => {
    const stop = { stop: 's', start: '2026-06-14T08:00:00Z', end: '2026-06-14T08:10:00Z', latitude: 48.003, longitude: -33.995 };
    const response = { time: '2026-06-14T08:00:00Z', response: 'struck' };
    const cases: [method: string, path: string, good: Record<string, unknown>, wrong: [field: string, value: unknown][]][] = [
      [
        'PUT',
        `/waters/${newId()}`,
        { name: 'Other' },
        [
          ['name', undefined],
          ['name', 5],
          ['altitude_m', 99999],
          ['time_zone', 'Nowhere/Land'],
          ['outline', { type: 'Point', coordinates: [0, 0] }],
          ['shoe', 1],
        ],
      ],
      [
        'PUT',
        `/waters/${water}/trips/${newId()}`,
        { trip: 'B', start: '2026-06-15T06:00:00Z', end: '2026-06-15T09:00:00Z' },
        [
          ['trip', undefined],
          ['start', 'yesterday'],
          ['end', '2026-06-15T05:00:00Z'],
          ['purpose', 'fun'],
          ['boat', 4],
        ],
      ],
      [
        'PUT',
        `/trips/${trip}/contacts/${newId()}`,
        { ...at, kind: 'fish' },
        [
          ['kind', undefined],
          ['latitude', 95],
          ['longitude', '12'],
          ['top_m', -3],
          ['count', 1.5],
          ['time', '2026-02-30T00:00:00Z'],
          ['confidence', 2],
        ],
      ],
      [
        'PUT',
        `/trips/${trip}/stops/${newId()}`,
        stop,
        [
          ['stop', undefined],
          ['latitude', 'north'],
          ['end', '2026-06-14T07:00:00Z'],
          ['radius_m', -1],
          ['outcome', 'great'],
        ],
      ],
      [
        'PUT',
        `/trips/${trip}/responses/${newId()}`,
        response,
        [
          ['response', undefined],
          ['length_m', 40],
          ['mass_kg', 'heavy'],
          ['fate', 'eaten'],
        ],
      ],
      [
        'POST',
        `/trips/${trip}/conditions`,
        { time: '2026-06-14T09:00:00Z' },
        [
          ['time', undefined],
          ['surface_temperature_c', 80],
          ['secchi_m', 'clear'],
          ['wind_from_deg', 400],
        ],
      ],
    ];
    for (const [method, path, good, wrong] of cases)
      for (const [field, value] of wrong)
        it(`${method} ${path.replace(/[0-9a-f-]{36}/g, ':id')}: ${field} = ${JSON.stringify(value)}`, async () => {
          const counts = async (): Promise<string> =>
            JSON.stringify([
              (await send('GET', '/waters')).body.length,
              (await send('GET', `/waters/${water}/log`)).body,
              (await send('GET', `/trips/${trip}`)).body,
            ]);
          const before = await counts();
          const answer = await send(method, path, { ...good, [field]: value });
          expect(answer.status).to.equal(400);
          expect(answer.body.field).to.equal(field);
          expect(await counts()).to.equal(before);
        });
    it('a list of fixes, by place in the list', async () => {
      const answer = await send('POST', `/trips/${trip}/track`, [
        { ...at, mode: 'scan' },
        { ...at, mode: 'swim' },
      ]);
      expect([answer.status, answer.body.field]).to.deep.equal([400, '[1].mode']);
    });
    it('a cast, by reading', async () => {
      const answer = await send('POST', `/trips/${trip}/profiles`, [
        { profile: 'a', time: at.time, depth_m: 0, temperature_c: 18 },
        { profile: 'a', time: at.time, depth_m: -1, temperature_c: 18 },
      ]);
      expect([answer.status, answer.body.field]).to.deep.equal([400, '[1].depth_m']);
    });
    it('what is no JSON, and addresses that do not exist', async () => {
      const broken = await fetch(`${server.url}/api/trips/${trip}/track`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: '{',
      });
      expect(broken.status).to.equal(400);
      expect((await send('GET', `/trips/${newId()}`)).status).to.equal(404);
      expect((await send('GET', '/nothing')).status).to.equal(404);
    });
  });
});
