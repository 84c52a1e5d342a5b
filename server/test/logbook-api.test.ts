import { expect } from 'chai';
import type { Change, FoundInTrip, LoggedTrip, SpotYield } from '@restless-shoal/core/contract';
import { newId } from '@restless-shoal/core/logbook';
import { ask, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

// What the Logbook asks for: all trips in a line each, what is written in them, and who changed what.

const data = temporaryFolder();
let server: RunningServer;
const [water, spring, autumn] = [newId(), newId(), newId()];

const send = (path: string, method: string, body?: object, device?: string): Promise<Response> =>
  fetch(`${server.url}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json', ...(device ? { 'X-Device': device } : {}) },
    body: body && JSON.stringify(body),
  });
const put = async (path: string, body: object, device?: string): Promise<void> => {
  const response = await send(path, 'PUT', body, device);
  expect(response.ok, `${path}: ${response.ok ? '' : await response.text()}`).to.equal(true);
};
const at = { latitude: 48.2, longitude: -34.6 };
const mark = (k: number, more: object = {}): object => ({
  contact: `m${k}`,
  time: new Date(Date.UTC(2026, 4, 2, 6, k)).toISOString(),
  ...at,
  kind: 'fish',
  species: k % 3 ? 'perch' : null,
  top_m: 3 + k / 10,
  bottom_m: 4 + k / 10,
  water_depth_m: 8,
  ...more,
});

before(async () => {
  server = await serve(data.path);
  await put(`/waters/${water}`, { name: 'Long Mere', kind: 'lake', ...at });
  await put(`/waters/${water}/trips/${spring}`, { trip: 'spring', start: '2026-05-02T05:00:00Z', end: '2026-05-02T11:30:00Z', purpose: 'guide', crew: 'Two clients', notes: 'Fog until ten' }); // prettier-ignore
  await put(`/waters/${water}/trips/${autumn}`, { trip: 'autumn', start: '2026-10-03T05:00:00Z', end: '2026-10-03T09:00:00Z' });
  for (let k = 0; k < 30; k++) await put(`/trips/${spring}/contacts/${newId()}`, mark(k, k === 7 ? { notes: 'under the old jetty' } : {}));
  await put(`/trips/${spring}/contacts/${newId()}`, mark(40, { kind: 'bait', species: null }));
  await put(`/trips/${spring}/stops/${newId()}`, {
    stop: 's1',
    start: '2026-05-02T07:00:00Z',
    end: '2026-05-02T07:20:00Z',
    ...at,
    outcome: 'fish',
  });
  await put(`/trips/${spring}/stops/${newId()}`, {
    stop: 's2',
    start: '2026-05-02T08:00:00Z',
    end: '2026-05-02T08:00:00Z',
    ...at,
    outcome: 'nothing',
  });
  await put(`/trips/${spring}/responses/${newId()}`, {
    time: '2026-05-02T07:10:00Z',
    response: 'landed',
    species: 'pike',
    lure: '100 % silver spoon',
  });
  for (const [time, celsius] of [
    ['2026-05-02T06:00:00Z', 11.5],
    ['2026-05-02T10:00:00Z', 13],
  ])
    await send(`/trips/${spring}/conditions`, 'POST', { time, surface_temperature_c: celsius });
});
after(async () => {
  await server.stop();
  data.remove();
});

describe('the list of trips', () => {
  it('says of each when it was, what was seen and caught, and the first readings of the day; the last trip first', async () => {
    const trips = await ask<LoggedTrip[]>(server, '/logbook');
    expect(trips.map((t) => t.trip)).to.deep.equal(['autumn', 'spring']);
    const [empty, full] = trips;
    expect(full).to.deep.include({ id: spring, water_id: water, water: 'Long Mere', purpose: 'guide', crew: 'Two clients', marks: 31, stops: 1, blanks: 1, surface_temperature_c: 11.5 }); // prettier-ignore
    expect(full.fish).to.deep.equal([['perch', 20], ['', 10]]); // prettier-ignore
    expect(full.landed).to.deep.equal([['pike', 1]]);
    expect(full.column).to.have.length(12);
    expect(full.column[0]).to.have.length(5);
    expect(empty).to.deep.include({ marks: 0, fish: [], landed: [], stops: 0, column: [], looks: null });
  });
  it('leaves out what was deleted, and has it again once it is brought back', async () => {
    await send(`/waters/${water}/trips/${autumn}`, 'DELETE');
    expect((await ask<LoggedTrip[]>(server, '/logbook')).map((t) => t.trip)).to.deep.equal(['spring']);
    await send(`/waters/${water}/trips/${autumn}/restore`, 'POST', {});
    expect(await ask<LoggedTrip[]>(server, '/logbook')).to.have.length(2);
  });
});

describe('the search', () => {
  const found = (q: string, or = ''): Promise<FoundInTrip[]> => ask(server, `/logbook/search?q=${encodeURIComponent(q)}&or=${or}`);
  it('finds what is written anywhere, in any case, and says where', async () => {
    expect((await found('OLD jetty'))[0]).to.deep.include({ trip: spring, count: 1 });
    expect((await found('OLD jetty'))[0].first[0]).to.deep.include({ record: 'contacts', field: 'notes', text: 'under the old jetty' });
    expect((await found('clients'))[0].first[0]).to.deep.include({ record: 'trips', field: 'crew' });
    expect((await found('perch'))[0].count).to.equal(20);
    expect((await found('spoon'))[0].first[0].record).to.equal('responses');
  });
  it('takes signs as they are, finds a species by its code as well, and nothing for nothing', async () => {
    expect(await found('100 % s')).to.have.length(1);
    expect(await found('_')).to.deep.equal([]);
    expect(await found('\\')).to.deep.equal([]);
    expect(await found('')).to.deep.equal([]);
    expect(await found('Hecht')).to.deep.equal([]);
    expect((await found('Hecht', 'pike'))[0].first[0].text).to.equal('pike');
  });
});

describe('the history of a trip', () => {
  it('has what was changed, field by field, when and from which device; the same once more is no change', async () => {
    const id = newId();
    await put(`/trips/${autumn}/contacts/${id}`, mark(1), 'phone 1a2b');
    await put(`/trips/${autumn}/contacts/${id}`, mark(1), 'phone 1a2b');
    await put(`/trips/${autumn}/contacts/${id}`, mark(1, { species: 'zander', top_m: 5, bottom_m: 6 }), 'computer 9f00');
    await send(`/trips/${autumn}/contacts/${id}`, 'DELETE', undefined, 'phone 1a2b');
    await send(`/trips/${autumn}/contacts/${id}/restore`, 'POST', {}, 'phone 1a2b');
    const times = { trip: 'autumn', start: '2026-10-03T05:00:00.000Z', end: '2026-10-03T09:00:00Z' };
    await put(`/waters/${water}/trips/${autumn}`, times);
    await put(`/waters/${water}/trips/${autumn}`, { ...times, end: null });
    const changes = (await ask<Change[]>(server, `/trips/${autumn}/changes`)).filter((c) => c.record_id === id || c.done === 'changed');
    expect(changes.map(({ record, done, device }) => [record, done, device])).to.deep.equal([
      ['trips', 'changed', null],
      ['contacts', 'restored', 'phone 1a2b'],
      ['contacts', 'deleted', 'phone 1a2b'],
      ['contacts', 'changed', 'computer 9f00'],
    ]);
    expect(changes[3]).to.deep.include({
      before: { species: 'perch', top_m: 3.1, bottom_m: 4.1 },
      after: { species: 'zander', top_m: 5, bottom_m: 6 },
    });
    expect(changes[0].after).to.deep.equal({ end: null });
  });
});

describe('a reading', () => {
  it('is put right, deleted and brought back by its id, as a mark is', async () => {
    const readings = async (): Promise<{ id: string; time: string; surface_temperature_c: number | null; version: number }[]> =>
      (
        await ask<{ readings: { id: string; time: string; surface_temperature_c: number | null; version: number }[] }>(
          server,
          `/waters/${water}/log`,
        )
      ).readings;
    const [first] = await readings();
    const path = `/trips/${spring}/conditions/${first.id}`;
    await put(`${path}?base=${first.version}`, { time: first.time, surface_temperature_c: 12.5 });
    expect((await readings())[0].surface_temperature_c).to.equal(12.5);
    const stale = await send(`${path}?base=${first.version}`, 'PUT', { time: first.time, surface_temperature_c: 1 });
    expect(stale.status).to.equal(409);
    await send(path, 'DELETE');
    expect(await readings()).to.have.length(1);
    await send(`${path}/restore`, 'POST', {});
    expect((await readings())[0]).to.deep.include({ id: first.id, surface_temperature_c: 12.5 });
  });
});

describe('two trips', () => {
  const everything = async (trip: string): Promise<object> => {
    const detail = await ask<{ track: object[]; stops: { version?: number }[]; contacts: { version?: number }[]; responses: { version?: number }[]; trip: { version?: number; changed_at?: string } }>(server, `/trips/${trip}`); // prettier-ignore
    const { readings, profiles } = await ask<{ readings: { trip_id: string }[]; profiles: { trip_id: string }[] }>(
      server,
      `/waters/${water}/log`,
    );
    return { ...detail, trip: { ...detail.trip, version: 0, changed_at: '' }, readings: readings.filter((r) => r.trip_id === trip), profiles: profiles.filter((p) => p.trip_id === trip) }; // prettier-ignore
  };
  const [one, two] = [newId(), newId()];
  before(async () => {
    for (const [trip, hour] of [
      [one, 6],
      [two, 9],
    ] as const) {
      const at = (minute: number): string => new Date(Date.UTC(2026, 6, 4, hour, minute)).toISOString();
      await put(`/waters/${water}/trips/${trip}`, { trip: `july ${hour}`, start: at(0), end: at(50), notes: `from ${hour}` });
      await put(`/trips/${trip}/stops/${newId()}`, { stop: 's1', start: at(10), end: at(20), latitude: 48.2, longitude: -34.6 });
      await put(`/trips/${trip}/contacts/${newId()}`, mark(1, { time: at(11), stop: 's1' }));
      await put(`/trips/${trip}/contacts/${newId()}`, mark(2, { time: at(40), same_as: 'm1' }));
      await put(`/trips/${trip}/responses/${newId()}`, { time: at(12), response: 'landed', stop: 's1', contact: 'm1' });
      await send(`/trips/${trip}/conditions`, 'POST', { time: at(5), surface_temperature_c: hour });
      await send(`/trips/${trip}/profiles`, 'POST', [{ profile: 'p', time: at(6), depth_m: 1, temperature_c: hour }] as unknown as object);
      const fixes = Array.from({ length: 50 }, (_, k) => ({ time: at(k), latitude: 48.2, longitude: -34.6 + k * 1e-4, mode: 'scan' }));
      await send(`/trips/${trip}/track`, 'POST', fixes as unknown as object);
    }
  });
  it('become one with all that both hold, keys that both had told apart, and two again as they were', async () => {
    const were = [await everything(one), await everything(two)];
    const { change } = (await (await send(`/waters/${water}/trips/${one}/merge`, 'POST', { other: two })).json()) as { change: string };
    const both = (await everything(one)) as { trip: { start: string; end: string; notes: string }; track: object[]; contacts: { contact: string; same_as: string | null; stop: string | null; time: string }[]; responses: { stop: string; contact: string }[]; readings: object[]; profiles: { profile: string }[] }; // prettier-ignore
    expect(both.trip).to.deep.include({ start: '2026-07-04T06:00:00.000Z', end: '2026-07-04T09:50:00.000Z', notes: 'from 6\nfrom 9' });
    expect(both.track).to.have.length(100);
    expect(both.contacts.map((c) => [c.contact, c.same_as, c.stop])).to.deep.equal([
      ['m1', null, 's1'],
      ['m2', 'm1', null],
      ['m1 (2)', null, 's1 (2)'],
      ['m2 (2)', 'm1 (2)', null],
    ]);
    expect(both.responses.map((r) => [r.stop, r.contact])).to.deep.equal([
      ['s1', 'm1'],
      ['s1 (2)', 'm1 (2)'],
    ]);
    expect(both.readings).to.have.length(2);
    expect(both.profiles.map((p) => p.profile)).to.have.members(['p', 'p (2)']);
    expect((await send(`/trips/${two}`, 'GET')).status).to.equal(404);
    expect((await send(`/waters/${water}/trips/${one}/unmerge`, 'POST', { change })).status).to.equal(200);
    expect([await everything(one), await everything(two)]).to.deep.equal(were);
    expect((await send(`/waters/${water}/trips/${one}/unmerge`, 'POST', { change })).status).to.equal(404);
  });
  it('come of one that is split, each with what was logged in it; not at a moment outside', async () => {
    const id = newId();
    const at = '2026-07-04T06:30:00.000Z';
    expect((await send(`/waters/${water}/trips/${one}/split`, 'POST', { at: '2026-07-04T05:00:00.000Z', id })).status).to.equal(409);
    expect((await send(`/waters/${water}/trips/${one}/split`, 'POST', { at, id })).status).to.equal(200);
    const parts = [await everything(one), await everything(id)] as {
      trip: { start: string; end: string };
      track: object[];
      contacts: object[];
      readings: object[];
    }[];
    expect(parts.map((p) => [p.track.length, p.contacts.length, p.readings.length])).to.deep.equal([
      [30, 1, 1],
      [20, 1, 0],
    ]);
    expect(parts.map((p) => [p.trip.start, p.trip.end])).to.deep.equal([
      ['2026-07-04T06:00:00.000Z', at],
      [at, '2026-07-04T06:50:00.000Z'],
    ]);
  });
  it('are never of two waters, nor one with itself', async () => {
    const other = newId();
    await put(`/waters/${other}`, { name: 'Far Mere', latitude: 48.5, longitude: -34 });
    const far = newId();
    await put(`/waters/${other}/trips/${far}`, { trip: 'far', start: '2026-05-02T05:00:00Z', end: null });
    for (const asked of [far, two])
      expect((await send(`/waters/${water}/trips/${two}/merge`, 'POST', { other: asked })).status).to.equal(409);
  });
});

describe('many records at once', () => {
  it('are changed, deleted and brought back as one: all of it, or nothing where one is wrong', async () => {
    const { contacts } = await ask<{ contacts: ({ id: string; species: string | null } & Record<string, unknown>)[] }>(
      server,
      `/trips/${spring}`,
    );
    const sent = contacts.map(({ id, trip: _, trip_id: __, version: ___, deleted_at: ____, ...row }) => ({ record: 'contacts', id, done: 'put', row: { ...row, species: 'tench' } })); // prettier-ignore
    const bad = [...sent, { record: 'contacts', id: newId(), done: 'put', row: { kind: 'fish' } }];
    const refused = await send(`/trips/${spring}/records`, 'POST', { edits: bad });
    expect(refused.status).to.equal(400);
    const species = async (): Promise<(string | null)[]> =>
      (await ask<{ contacts: { species: string | null }[] }>(server, `/trips/${spring}`)).contacts.map((c) => c.species);
    expect(await species()).to.not.include('tench');
    const taken = await send(`/trips/${spring}/records`, 'POST', { edits: sent }, 'computer 9f00');
    expect(await taken.json()).to.deep.equal({ changed: contacts.length });
    expect(new Set(await species())).to.deep.equal(new Set(['tench']));
    expect((await ask<Change[]>(server, `/trips/${spring}/changes`)).filter((c) => c.after?.species === 'tench')).to.have.length(
      contacts.length,
    );
    const of = (done: string): object => ({ edits: contacts.map(({ id }) => ({ record: 'contacts', id, done })) });
    await send(`/trips/${spring}/records`, 'POST', of('deleted'));
    expect(await species()).to.deep.equal([]);
    await send(`/trips/${spring}/records`, 'POST', of('restored'));
    expect(await species()).to.have.length(contacts.length);
    expect(await (await send(`/trips/${spring}/records`, 'POST', of('restored'))).json()).to.deep.equal({ changed: 0 });
  });
});

describe('a spot', () => {
  it('is named once, has what was fished and landed within its reach, and goes into the trash and back', async () => {
    const [id, other] = [newId(), newId()];
    const path = `/waters/${water}/spots`;
    await put(`${path}/${id}`, { name: 'Old jetty', latitude: 48.2003, longitude: -34.6, notes: 'Timber to 4 m' });
    const spots = (): Promise<SpotYield[]> => ask(server, path);
    const [found] = await spots();
    // The stops of spring and of the two trips of July lie 33 m off; only those with minutes were fished.
    expect(found).to.deep.include({ id, name: 'Old jetty', notes: 'Timber to 4 m', stops: 3, minutes: 40, bites: 2 });
    expect(found.landed).to.deep.equal([['', 2]]);
    expect(found.last).to.equal('2026-07-04T09:10:00.000Z');
    expect(found.months).to.deep.equal([[5, 1, 20, 0, 0], [7, 2, 20, 2, 2]]); // prettier-ignore
    await put(`${path}/${other}`, { name: 'Far', latitude: 48.21, longitude: -34.6 });
    expect((await spots()).find((s) => s.id === other)).to.deep.include({ stops: 0, minutes: 0, bites: 0, landed: [], last: null });
    const taken = await send(`${path}/${other}`, 'PUT', { name: 'old JETTY', latitude: 48.21, longitude: -34.6 });
    expect(taken.status).to.equal(409);
    await send(`${path}/${id}`, 'DELETE');
    expect((await spots()).map((s) => s.id)).to.deep.equal([other]);
    const { items } = await ask<{ items: { what: string; id: string; kind: string | null }[] }>(server, '/trash');
    expect(items.find((i) => i.id === id)).to.deep.include({ what: 'spot', kind: 'Old jetty' });
    await put(`${path}/${other}`, { name: 'Old jetty', latitude: 48.21, longitude: -34.6 });
    expect((await send(`${path}/${id}/restore`, 'POST', {})).status).to.equal(409);
    await put(`${path}/${other}`, { name: 'Far', latitude: 48.21, longitude: -34.6 });
    await send(`${path}/${id}/restore`, 'POST', {});
    expect(await spots()).to.have.length(2);
  });
});
