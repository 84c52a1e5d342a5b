import { expect } from 'chai';
import { chmodSync, existsSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { command, prepareWater, temporaryFolder } from '../../e2e/harness';
import { eachItsOwnCluster } from '../../e2e/own-clusters';
import { stoppingServers } from '../../e2e/stopping-servers';

eachItsOwnCluster();
const data = temporaryFolder();
const folder = join(data.path, 'logbook');
let name: string;

const serve = stoppingServers();
const run = (...args: string[]): ReturnType<typeof command> => command(...args, '--data', data.path);

before(async () => {
  name = await prepareWater(data.path, 8, 2);
});
after(() => data.remove());

describe('starting and stopping', () => {
  it('a command works while a server runs on the same data, and neither stops the other', async () => {
    const server = await serve(data.path);
    expect((await run('import', '--water', name, join(folder, 'stops.csv'))).code).to.equal(0);
    expect((await fetch(`${server.url}/api/health`)).status).to.equal(200);
    expect((await command('serve', '--port', '0', '--data', data.path)).text).to.include('served already');
    await server.stop();
  });
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    it(`${signal} stops the server and its database`, async () => {
      const server = await serve(data.path);
      const { port } = JSON.parse(readFileSync(join(data.path, 'database.json'), 'utf8')) as { port: number };
      expect(await server.stop(signal)).to.equal(0);
      expect(existsSync(join(data.path, 'postgresql', 'postmaster.pid'))).to.equal(false);
      const free = await new Promise<boolean>((done) => {
        const probe = createServer();
        probe.once('error', () => done(false));
        probe.listen(port, '127.0.0.1', () => probe.close(() => done(true)));
      });
      expect(free).to.equal(true);
    });
  it('what was logged is there after a SIGKILL, too', async () => {
    const count = async (url: string): Promise<number> => {
      const waters = (await (await fetch(`${url}/api/waters`)).json()) as { name: string; contacts: number }[];
      return waters.find((w) => w.name === name)!.contacts;
    };
    const first = await serve(data.path);
    const before = await count(first.url);
    await first.stop('SIGKILL');
    const second = await serve(data.path);
    expect(await count(second.url)).to.equal(before);
    await second.stop();
  });
  it('says so when the port is taken', async () => {
    const holder = createServer();
    await new Promise<void>((done) => holder.listen(0, '127.0.0.1', done));
    const { port } = holder.address() as { port: number };
    const { code, text } = await command('serve', '--port', String(port), '--data', data.path);
    holder.close();
    expect([code, text.includes(`port ${port} is taken`)]).to.deep.equal([1, true]);
  });
  it('two copies run side by side on different data', async () => {
    const other = temporaryFolder();
    const [a, b] = await Promise.all([serve(data.path), serve(other.path)]);
    expect(a.url).to.not.equal(b.url);
    expect(((await (await fetch(`${b.url}/api/waters`)).json()) as unknown[]).length).to.equal(0);
    await Promise.all([a.stop(), b.stop()]);
    other.remove();
  });
  it('puts the database elsewhere when its user may not enter the folder, and says where', async function () {
    if (process.getuid?.() !== 0) {
      // Without root the database runs as this very user, who may enter: then there is nothing to move.
      expect((await run('import', '--water', name, join(folder, 'stops.csv'))).text).to.not.include('/var/lib');
      return;
    }
    const closed = temporaryFolder();
    chmodSync(closed.path, 0o700);
    const server = await serve(closed.path);
    await server.stop();
    expect(existsSync(join(closed.path, 'postgresql'))).to.equal(false);
    const moved = readdirSync('/var/lib/restless-shoal').find((d) => d.startsWith(closed.path.split('/').pop()!));
    expect(moved).to.be.a('string');
    rmSync(join('/var/lib/restless-shoal', moved!), { recursive: true });
    closed.remove();
  });
  it('refuses what it does not know', async () => expect((await command('sing')).code).to.equal(2));
});
