import 'fake-indexeddb/auto';
import { expect } from 'chai';
import { openDB } from 'idb';
import { newId } from '@restless-shoal/core/logbook';
import { Fault, Outbox, Refusal, type Entry } from '../src/offline/outbox';

const DAY = 86_400_000;
/** A server that takes what it is sent, unless told otherwise. */
class Server {
  taken: string[] = [];
  /** What it does with a path instead of taking it. */
  answers: (path: string) => Error | null = () => null;
  send = (entry: Entry): Promise<void> => {
    const error = this.answers(entry.path);
    if (error) return Promise.reject(error);
    this.taken.push(entry.path);
    return Promise.resolve();
  };
}
const opened = async (server: Server, name = newId()): Promise<Outbox> => {
  const outbox = new Outbox({ name, send: server.send });
  await outbox.load();
  return outbox;
};
const paths = (entries: Entry[]): string[] => entries.map((e) => e.path);
const gone = (): Error => new TypeError('Failed to fetch');
/** Waits until whatever was begun has come to its end. */
const settled = async (outbox: Outbox): Promise<void> => {
  await outbox.flush();
  await outbox.flush();
};

describe('the outbox', () => {
  it('keeps what cannot be sent, in order, through another opening, and sends it once there is a server', async () => {
    const [server, name] = [new Server(), newId()];
    server.answers = gone;
    const first = await opened(server, name);
    for (const path of ['/a', '/b', '/c']) await first.put('PUT', path, {});
    await settled(first);
    expect(first.snapshot().stuck).to.equal(true);
    const again = await opened(server, name);
    expect(paths(again.snapshot().waiting)).to.deep.equal(['/a', '/b', '/c']);
    server.answers = () => null;
    await settled(again);
    expect(server.taken).to.deep.equal(['/a', '/b', '/c']);
    expect(again.snapshot()).to.deep.include({ waiting: [], stuck: false });
    expect(paths((await opened(server, name)).snapshot().sent)).to.deep.equal(['/a', '/b', '/c']);
  });
  it('sets aside what is refused, with the reason, holds up nothing behind it, and lets it be dropped', async () => {
    const [server, name] = [new Server(), newId()];
    server.answers = (path) => (path === '/bad' ? new Refusal('kind is missing') : null);
    const outbox = await opened(server, name);
    for (const path of ['/a', '/bad', '/c']) await outbox.put('PUT', path, {});
    await settled(outbox);
    expect(server.taken).to.deep.equal(['/a', '/c']);
    const [refused] = (await opened(server, name)).snapshot().waiting;
    expect(refused).to.include({ path: '/bad', refused: 'kind is missing' });
    await outbox.drop(refused.seq);
    expect((await opened(server, name)).snapshot().waiting).to.deep.equal([]);
  });
  it('passes over what the server fails at again and again, once others get through; it can be sent again', async () => {
    const server = new Server();
    server.answers = (path) =>
      path === '/bad' ? new Fault('failed') : path === '/of-bad' && !server.taken.includes('/bad') ? new Refusal('no such trip') : null;
    const outbox = await opened(server);
    for (const path of ['/a', '/bad', '/of-bad', '/b', '/c']) await outbox.put('PUT', path, {});
    for (let k = 0; k < 4; k++) await settled(outbox);
    expect(server.taken).to.deep.equal(['/a', '/b', '/c']);
    const aside = outbox.snapshot().waiting;
    expect(paths(aside)).to.deep.equal(['/bad', '/of-bad']);
    expect(aside[0].refused).to.include('can be sent again');
    server.answers = () => null;
    for (const { seq } of aside) await outbox.sendAgain(seq);
    await settled(outbox);
    expect(server.taken).to.deep.equal(['/a', '/b', '/c', '/bad', '/of-bad']);
    // A server that fails over everything is in trouble itself: all of it waits.
    server.answers = () => new Fault('failed');
    for (const path of ['/d', '/e']) await outbox.put('PUT', path, {});
    for (let k = 0; k < 6; k++) await settled(outbox);
    expect(outbox.snapshot().waiting.map((e) => e.refused)).to.deep.equal([null, null]);
    expect(outbox.snapshot().stuck).to.equal(true);
  });
  it('offers again, once and in order, what it sent to a server that shows another epoch; the first epoch seen changes nothing', async () => {
    const server = new Server();
    const outbox = await opened(server);
    await outbox.sawEpoch('one');
    for (const path of ['/a', '/b']) await outbox.put('PUT', path, {});
    await settled(outbox);
    await outbox.sawEpoch('one');
    await settled(outbox);
    expect(server.taken).to.deep.equal(['/a', '/b']);
    await outbox.sawEpoch('two');
    await settled(outbox);
    await outbox.sawEpoch('two');
    await settled(outbox);
    expect(server.taken).to.deep.equal(['/a', '/b', '/a', '/b']);
  });
  it('refuses nothing for good that a replaced server does not know yet', async () => {
    const server = new Server();
    const outbox = await opened(server);
    await outbox.sawEpoch('one');
    await outbox.put('PUT', '/trip', {});
    await settled(outbox);
    // The other server says which it is as it refuses a mark of a trip that it has never heard of.
    let knows = false;
    server.taken = [];
    const send = server.send;
    const other = async (entry: Entry): Promise<void> => {
      await outbox.sawEpoch('two');
      if (entry.path === '/trip') knows = true;
      else if (!knows) throw new Refusal('there is no such trip');
      return send(entry);
    };
    Object.assign((outbox as unknown as { options: object }).options, { send: other });
    await outbox.put('PUT', '/mark', {});
    await settled(outbox);
    expect(server.taken).to.deep.equal(['/trip', '/mark']);
    expect(outbox.snapshot().waiting).to.deep.equal([]);
  });
  it('takes over what an earlier version of it left waiting or refused', async () => {
    const name = newId();
    const old = await openDB(name, 1, { upgrade: (db) => void db.createObjectStore('entries', { keyPath: 'seq', autoIncrement: true }) });
    await old.add('entries', { method: 'PUT', path: '/waits', body: {}, refused: null });
    await old.add('entries', { method: 'PUT', path: '/refused', body: {}, refused: 'no' });
    old.close();
    const server = new Server();
    const outbox = await opened(server, name);
    expect(paths(outbox.snapshot().waiting)).to.deep.equal(['/waits', '/refused']);
    await settled(outbox);
    expect(server.taken).to.deep.equal(['/waits']);
  });
  it('forgets tracks after a week and marks after a month, and shows no more than the last day', async () => {
    const [server, name] = [new Server(), newId()];
    const outbox = await opened(server, name);
    for (const path of ['/trips/t/track', '/old', '/week', '/new']) await outbox.put('PUT', path, {});
    await settled(outbox);
    const db = await openDB(name);
    const ago: Record<string, number> = { '/trips/t/track': 8, '/old': 31, '/week': 8, '/new': 0 };
    for (const entry of (await db.getAll('entries')) as Entry[])
      await db.put('entries', { ...entry, sentAt: Date.now() - ago[entry.path] * DAY });
    const again = await opened(server, name);
    expect(paths((await db.getAll('entries')) as Entry[])).to.deep.equal(['/week', '/new']);
    expect(paths(again.snapshot().sent)).to.deep.equal(['/new']);
    db.close();
  });
});
