import { expect } from 'chai';
import { join } from 'node:path';
import { closeBrowser } from './browser';
import { command, serve, temporaryFolder, writeLogbook, type RunningServer } from './harness';

/** Serves a made-up water with its log for the tests of a file, and clears up after them. @returns the running server, from the first test on */
export function loggedWater(seed: number, trips: number): () => RunningServer {
  const data = temporaryFolder();
  let server: RunningServer;
  before(async () => {
    const folder = join(data.path, 'logbook');
    const name = writeLogbook(folder, seed, trips);
    const { code, text } = await command('import', '--data', data.path, '--water', name, '--create', folder);
    expect(code, text).to.equal(0);
    server = await serve(data.path);
  });
  after(async () => {
    await closeBrowser();
    await server.stop();
    data.remove();
  });
  return () => server;
}
