import { expect } from 'chai';
import { join } from 'node:path';
import { newId } from '@restless-shoal/core/logbook';
import { SimulatedDeck } from '../../e2e/decks';
import { command, serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

const [data, other, files] = [temporaryFolder(), temporaryFolder(), temporaryFolder()];
const water = newId();
let server: RunningServer;
let port: string;
const url = (): string => server.url;

before(async () => {
  server = await serve(data.path);
  ({ port } = new URL(server.url));
  const made = await fetch(`${server.url}/api/waters/${water}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'Slope mere' }),
  });
  expect(made.status).to.equal(201);
});
after(async () => {
  await server.stop();
  [data, other, files].forEach((f) => f.remove());
});

describe('decks that log while the server dies', () => {
  it('lose nothing and double nothing: all marks are there once, each deck’s in its order', async () => {
    const decks = Array.from({ length: 8 }, (_, i) => new SimulatedDeck(i, water, url));
    await Promise.all(decks.map((d) => d.start()));
    let over = false;
    const logging = Promise.all(
      decks.map(async (deck) => {
        for (let k = 0; k < 40; k++) {
          await deck.mark();
          await new Promise((done) => setTimeout(done, 40));
        }
      }),
    ).then(() => (over = true));
    let kills = 0;
    while (!over || kills < 2) {
      await new Promise((done) => setTimeout(done, 400));
      await server.stop('SIGKILL');
      kills++;
      server = await serve(data.path, '--port', port);
    }
    await logging;
    await Promise.all(decks.map((d) => d.sendAll()));
    for (const deck of decks) expect(await deck.held(server.url), `deck ${deck.number}`).to.deep.equal(deck.marks);
  });

  it('bring back, once, what a server that was set back to a backup no longer knows', async () => {
    const [known, begunLater] = [new SimulatedDeck(20, water, url), new SimulatedDeck(21, water, url)];
    await known.start();
    for (let k = 0; k < 5; k++) await known.mark();
    await known.sendAll();
    const file = join(files.path, 'before.zip');
    expect((await command('backup', '--data', data.path, file)).code).to.equal(0);
    await begunLater.start();
    for (let k = 0; k < 25; k++) for (const deck of [known, begunLater]) await deck.mark();
    for (const deck of [known, begunLater]) await deck.sendAll();
    expect(await known.held(server.url)).to.have.length(30);

    await server.stop();
    expect((await command('restore', '--data', other.path, file)).code).to.equal(0);
    server = await serve(other.path, '--port', port);
    expect(await known.held(server.url)).to.have.length(5);
    expect(await begunLater.held(server.url)).to.have.length(0);
    // The next mark meets the other server, and all that it lost comes with it, in order.
    for (const deck of [known, begunLater]) {
      await deck.mark();
      await deck.sendAll();
      expect(await deck.held(server.url), `deck ${deck.number}`).to.deep.equal(deck.marks);
    }
  });
});
