import { serve, type RunningServer } from './harness';

/** Serves folders for the tests of a file; each server is stopped after its test, also when that fails. */
export function stoppingServers(): (data: string) => Promise<RunningServer> {
  const started: RunningServer[] = [];
  afterEach(async () => {
    for (const server of started.splice(0)) if (server.process.exitCode === null && server.process.signalCode === null) await server.stop();
  });
  return async (data) => {
    const server = await serve(data);
    started.push(server);
    return server;
  };
}
