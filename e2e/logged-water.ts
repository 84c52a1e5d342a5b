import { closeBrowser } from './browser';
import { prepareWater, serve, temporaryFolder, type RunningServer } from './harness';

/** Serves a made-up water with its log for the tests of a file, and clears up after them. @returns the running server, from the first test on */
export function loggedWater(seed: number, trips: number): () => RunningServer {
  const data = temporaryFolder();
  let server: RunningServer;
  before(async () => {
    await prepareWater(data.path, seed, trips);
    server = await serve(data.path);
  });
  after(async () => {
    await closeBrowser();
    await server.stop();
    data.remove();
  });
  return () => server;
}
