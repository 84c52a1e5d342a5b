import { fileURLToPath } from 'node:url';
import { newId } from '@restless-shoal/core/logbook';
import { SimulatedDeck } from '../e2e/decks';
import type { RunningServer } from '../e2e/harness';
import { benchFolder, finish, held } from './support';

// Fifty decks log ten thousand marks while the server is killed and started again ten times.

const [DECKS, MARKS, KILLS] = [50, 10_000, 10];
const folder = benchFolder();
const results: boolean[] = [];
process.env.SHOAL_MAIN = fileURLToPath(new URL('./main.mjs', import.meta.url));
const { serve } = await import('../e2e/harness');
let server: RunningServer = await serve(folder.path);
try {
  const { port } = new URL(server.url);
  const water = newId();
  await fetch(`${server.url}/api/waters/${water}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'Slope mere' }),
  });
  const decks = Array.from({ length: DECKS }, (_, i) => new SimulatedDeck(i, water, () => server.url));
  await Promise.all(decks.map((d) => d.start()));
  const began = Date.now();
  let over = false;
  const logging = Promise.all(
    decks.map(async (deck) => {
      for (let k = 0; k < MARKS / DECKS; k++) {
        await deck.mark();
        await new Promise((done) => setTimeout(done, 150));
      }
    }),
  ).then(() => (over = true));
  let kills = 0;
  while (kills < KILLS || !over) {
    await new Promise((done) => setTimeout(done, 2500));
    if (kills === KILLS) continue;
    await server.stop('SIGKILL');
    kills++;
    server = await serve(folder.path, '--port', port);
  }
  await logging;
  await Promise.all(decks.map((d) => d.sendAll(600_000)));
  console.log(`${DECKS} decks, ${kills} kills, ${((Date.now() - began) / 1000).toFixed(0)} s until all was sent`);
  let [there, doubled, inOrder] = [0, 0, 0];
  for (const deck of decks) {
    const kept = await deck.held(server.url);
    there += new Set(kept.filter((id) => deck.marks.includes(id))).size;
    doubled += kept.length - new Set(kept).size;
    inOrder += Number(kept.join() === deck.marks.join());
  }
  results.push(
    held('marks on the server', there, '>=', MARKS),
    held('marks there twice', doubled, '<=', 0),
    held('decks whose marks stand in the order they were made', inOrder, '>=', DECKS),
  );
} finally {
  await server.stop();
  folder.remove();
}
finish(results);
