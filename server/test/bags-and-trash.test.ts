import { expect } from 'chai';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { newId } from '@restless-shoal/core/logbook';
import { ask, command, commandIn, connectTo, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

const data = temporaryFolder();
const files = temporaryFolder();
const run = (...args: string[]): ReturnType<typeof command> => commandIn(files.path, ...args, '--data', data.path);
const write = (name: string, text: string): string => {
  const path = join(files.path, name);
  writeFileSync(path, text);
  return path;
};
let server: RunningServer;
after(async () => {
  await server.stop();
  data.remove();
  files.remove();
});

const trips = 'trip,start,end\nA,2026-05-02T06:00:00Z,2026-05-02T10:00:00Z\n';
const HEAD = 'trip,time,response,species,length_m\n';
const ROW = 'A,2026-05-02T07:00:00Z,landed';

describe('a file is a bag of rows', () => {
  it('two fish of the same minute are two, whether they differ or not; the same file again adds nothing', async () => {
    const folder = [write('trips.csv', trips), write('responses.csv', `${HEAD}${ROW},perch,0.3\n${ROW},perch,0.31\n${ROW},perch,0.3\n`)];
    const first = await run('import', '--water', 'Bag mere', '--create', ...folder);
    expect(first.code, first.text).to.equal(0);
    expect(first.text).to.match(/responses\.csv: read 3, added 3, known already 0/);
    expect((await run('import', '--water', 'Bag mere', ...folder)).text).to.match(/responses\.csv: read 3, added 0, known already 3/);
    // A fourth of the same content is another one.
    const more = write('responses.csv', `${HEAD}${ROW},perch,0.3\n${ROW},perch,0.3\n${ROW},perch,0.3\n`);
    expect((await run('import', '--water', 'Bag mere', more)).text).to.match(/read 3, added 1, known already 2/);
  });
  it('a row of other content is a new record and is listed, or with --update takes the place of one, in order', async () => {
    const other = write('responses.csv', `${HEAD}${ROW},pike,0.8\n`);
    const added = await run('import', '--water', 'Bag mere', other);
    expect(added.text).to.match(/read 1, added 1/);
    expect(added.text).to.match(/1 added as records of their own beside others of the same time .*line 2/);
    const changed = await run('import', '--water', 'Bag mere', '--update', write('responses.csv', `${HEAD}${ROW},pike,0.9\n`));
    expect(changed.text).to.match(/read 1, added 0, known already 0, changed 1/);
  });
  it('soundings, track and readings are bags, too', async () => {
    const soundings =
      'time,latitude,longitude,depth_m,temperature_c\n2026-05-02T06:00:00Z,48.2,-34.6,5,12\n2026-05-02T06:00:00Z,48.2,-34.6,5,13\n';
    const conditions = 'trip,time,surface_temperature_c\nA,2026-05-02T06:00:00Z,12\nA,2026-05-02T06:00:00Z,13\n';
    const track =
      'trip,time,latitude,longitude,mode,depth_m\nA,2026-05-02T06:00:00Z,48.2,-34.6,scan,5\nA,2026-05-02T06:00:00Z,48.2,-34.6,scan,5.1\n';
    const all = [write('soundings.csv', soundings), write('conditions.csv', conditions), write('track.csv', track)];
    const first = await run('import', '--water', 'Bag mere', ...all);
    for (const name of ['soundings', 'conditions', 'track']) expect(first.text).to.match(new RegExp(`${name}\\.csv: read 2, added 2`));
    const again = await run('import', '--water', 'Bag mere', ...all);
    for (const name of ['soundings', 'conditions', 'track'])
      expect(again.text).to.match(new RegExp(`${name}\\.csv: read 2, added 0, known already 2`));
  });
});

describe('the trash', () => {
  interface Trash {
    days: number;
    items: { what: string; id: string; trip_id: string; water_id: string; kind: string }[];
  }
  const trash = (): Promise<Trash> => ask(server, '/trash');
  const put = (path: string, body: object): Promise<unknown> => ask(server, path, 'PUT', body);
  let [water, trip]: string[] = [];
  before(async () => {
    server = await serve(data.path);
    [{ id: water }] = await ask<{ id: string }[]>(server, '/waters');
    const log = await ask<{ trips: { id: string }[] }>(server, `/waters/${water}/log`);
    trip = log.trips[0].id;
  });

  it('holds what was deleted, once, and gives it back', async () => {
    const [mark, stop] = [newId(), newId()];
    await put(`/trips/${trip}/contacts/${mark}`, {
      contact: mark,
      time: '2026-05-02T07:00:00Z',
      latitude: 48.2,
      longitude: -34.6,
      kind: 'fish',
      count: 3,
    });
    await put(`/trips/${trip}/stops/${stop}`, {
      stop,
      start: '2026-05-02T07:00:00Z',
      end: '2026-05-02T07:10:00Z',
      latitude: 48.2,
      longitude: -34.6,
      outcome: 'nothing',
    });
    for (const path of [`contacts/${mark}`, `stops/${stop}`]) await ask(server, `/trips/${trip}/${path}`, 'DELETE');
    expect((await trash()).items.map((i) => `${i.what} ${i.id}`)).to.have.members([`contact ${mark}`, `stop ${stop}`]);
    expect((await trash()).days).to.equal(90);
    await ask(server, `/trips/${trip}/contacts/${mark}/restore`, 'POST', {});
    expect((await trash()).items.map((i) => i.what)).to.deep.equal(['stop']);

    // A trip goes and comes with all that is on it.
    await ask(server, `/waters/${water}/trips/${trip}`, 'DELETE');
    expect((await trash()).items.map((i) => i.what)).to.deep.equal(['trip']);
    await ask(server, `/waters/${water}/trips/${trip}/restore`, 'POST', {});
    expect((await ask<{ contacts: unknown[] }>(server, `/trips/${trip}`)).contacts).to.have.length(1);
  });

  it('keeps what lies in it through an import of the same rows, and says so', async () => {
    await ask(server, `/waters/${water}/trips/${trip}`, 'DELETE');
    const { text } = await run(
      'import',
      '--water',
      'Bag mere',
      write('trips.csv', trips),
      write('responses.csv', `${HEAD}${ROW},perch,0.3\n`),
    );
    expect(text).to.match(/trips\.csv: read 1, added 0, known already 0, in the trash, left there 1/);
    expect(text).to.match(/responses\.csv: read 1, added 0, known already 0, in the trash, left there 1/);
    await ask(server, `/waters/${water}/trips/${trip}/restore`, 'POST', {});
  });

  it('holds a water: its name is free meanwhile, and taken when it comes back', async () => {
    await ask(server, `/waters/${water}`, 'DELETE');
    expect(await ask<unknown[]>(server, '/waters')).to.have.length(0);
    const other = newId();
    await put(`/waters/${other}`, { name: 'Bag mere' });
    expect(await ask<{ detail: string }>(server, `/waters/${water}/restore`, 'POST', {}))
      .to.have.property('detail')
      .that.includes('has this name now');
    await put(`/waters/${other}`, { name: 'Another mere' });
    await ask(server, `/waters/${water}/restore`, 'POST', {});
    expect((await ask<{ name: string }[]>(server, '/waters')).map((w) => w.name)).to.deep.equal(['Another mere', 'Bag mere']);
    await ask(server, `/waters/${other}`, 'DELETE');
  });

  it('is emptied after 90 days, of that alone', async () => {
    const client = await connectTo(data.path);
    await client.query("UPDATE stops SET deleted_at = now() - interval '91 days' WHERE deleted_at IS NOT NULL");
    await client.query("UPDATE waters SET deleted_at = now() - interval '91 days' WHERE deleted_at IS NOT NULL");
    const fresh = newId();
    await put(`/trips/${trip}/contacts/${fresh}`, {
      contact: fresh,
      time: '2026-05-02T08:00:00Z',
      latitude: 48.2,
      longitude: -34.6,
      kind: 'bait',
    });
    await ask(server, `/trips/${trip}/contacts/${fresh}`, 'DELETE');
    await client.end();
    await server.stop();
    server = await serve(data.path);
    expect((await trash()).items.map((i) => i.id)).to.deep.equal([fresh]);
    expect((await ask<{ contacts: unknown[]; responses: unknown[] }>(server, `/trips/${trip}`)).contacts).to.have.length(1);
    expect((await ask<{ name: string }[]>(server, '/waters')).map((w) => w.name)).to.deep.equal(['Bag mere']);
  });
});

describe('the files of a water on which a trip runs', () => {
  it('hold it as far as it has come, and all that was logged on it goes in elsewhere', async () => {
    const [{ id: water }] = await ask<{ id: string }[]>(server, '/waters');
    const trip = newId();
    await ask(server, `/waters/${water}/trips/${trip}`, 'PUT', { trip: 'still out', start: '2026-05-03T06:00:00Z', end: null });
    const mark = { time: '2026-05-03T06:40:00Z', latitude: 48.2, longitude: -34.6, kind: 'fish', top_m: 4 };
    await ask(server, `/trips/${trip}/contacts/${newId()}`, 'PUT', mark);
    const out = join(files.path, 'running');
    expect((await run('export', '--water', 'Bag mere', '--to', out)).code).to.equal(0);
    expect(readFileSync(join(out, 'trips.csv'), 'utf8')).to.contain('still out,2026-05-03T06:00:00.000Z,2026-05-03T06:40:00.000Z');
    const taken = await run('import', '--water', 'Elsewhere', '--create', out);
    expect(taken.text)
      .to.match(/trips\.csv: read 2, added 2/)
      .and.match(/contacts\.csv: read 2, added 2/);
  });
});

describe('files of other programs, with nobody to ask', () => {
  it('leave the mapping to be completed, change nothing, and go in once it is', async () => {
    const file = write(
      'my depths.csv',
      'Lat,Lon,Depth,Date,Time\n52.4,13.1,10,31.05.2024,06:00\n52.4001,13.1,12,31.05.2024,06:01\n52.4002,13.1,deep,31.05.2024,06:02\n52.4003,13.1,14,31.05.2024,06:03\n',
    );
    const asked = await run('import', '--water', 'Own lake', '--create', file);
    expect(asked.code).to.equal(1);
    for (const words of [
      'nothing was imported',
      'my depths.csv: the unit of "Depth" is not known',
      'the time zone of "Date" is not known',
      'Complete mapping.json',
    ])
      expect(asked.text).to.include(words);
    expect((await run('export', '--water', 'Own lake', '--to', join(files.path, 'none'))).code).to.equal(1);

    const path = join(files.path, 'mapping.json');
    const mapping = JSON.parse(readFileSync(path, 'utf8')) as { parts: { zone: string; columns: { to: string; unit?: string }[] }[] };
    mapping.parts[0].zone = 'Europe/Berlin';
    mapping.parts[0].columns.find((c) => c.to === 'depth')!.unit = 'ft';
    writeFileSync(path, JSON.stringify(mapping));
    const done = await run('import', '--water', 'Own lake', '--create', '--mapping', path, file);
    expect(done.code, done.text).to.equal(0);
    expect(done.text).to.match(/my depths\.csv: read 4, added 3, known already 0, left out 1/);
    expect(done.text).to.include('line 4, Depth: "deep" is not a number');
    const out = join(files.path, 'out');
    expect((await run('export', '--water', 'Own lake', '--to', out)).code).to.equal(0);
    expect(readFileSync(join(out, 'soundings.csv'), 'utf8').split('\n')[1]).to.match(/^2024-05-31T04:00:00\.000Z,52\.4,13\.1,3\.048,/);
    // Asked once: files that look the same need no mapping any more.
    const again = await run(
      'import',
      '--water',
      'Own lake',
      write('more depths.csv', 'Lat,Lon,Depth,Date,Time\n52.5,13.1,10,01.06.2024,06:00\n'),
    );
    expect(again.code, again.text).to.equal(0);
    expect(again.text).to.match(/more depths\.csv: read 1, added 1/);
  });
  it('names the field of a mapping that is wrong', async () => {
    const { code, text } = await run(
      'import',
      '--water',
      'Own lake',
      '--mapping',
      write('wrong.json', '{"format":"restless-shoal mapping 1","parts":[{"signature":"x"}]}'),
      join(files.path, 'my depths.csv'),
    );
    expect(code).to.equal(1);
    expect(text).to.match(/wrong\.json: parts\[0\]\.\w+ is missing/);
  });
});
