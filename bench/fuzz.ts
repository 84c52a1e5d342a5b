import fc from 'fast-check';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { newId } from '@restless-shoal/core/logbook';
import { seeded } from '@restless-shoal/core/numbers';
import { bentFile, rightFiles } from '../e2e/any-file';
import { anyRequest, filled, WAYS } from '../e2e/any-request';
import { benchFolder, finish, held } from './support';

// Requests and files that are wrong in every way, while somebody asks every 20 ms whether all is well.

const COUNT = Number(process.argv[2] ?? 50_000);
const SEED = Number(process.argv[3] ?? 1);
process.env.SHOAL_MAIN = fileURLToPath(new URL('./main.mjs', import.meta.url));
const { serve } = await import('../e2e/harness');

const folder = benchFolder();
const there = { water: newId(), trip: newId(), mark: newId() };
// All that takes this program's own time comes first: whoever waits for itself measures nothing.
const requests = fc.sample(anyRequest(there), { numRuns: COUNT, seed: SEED });
const right = join(folder.path, 'right');
mkdirSync(right);
const files = await rightFiles(right);
const server = await serve(join(folder.path, 'data'));
const faults: string[] = [];
// What the server says of its own faults: where they lie.
const said: string[] = [];
server.process.stderr!.on('data', (piece: Buffer) => said.push(String(piece).slice(0, 1000)));
const statuses = new Map<string, number>();

/** Longer than this nobody waits, ms: the server is deaf. */
const PATIENCE = 20_000;

async function send(kind: string, method: string, path: string, body?: string | Uint8Array, type = 'application/json'): Promise<Response> {
  const asked = `${method} ${path.slice(0, 200)} ${type === 'application/json' ? String(body).slice(0, 300) : ''}`;
  try {
    const once = (): Promise<Response> =>
      fetch(`${server.url}/api${path}`, {
        method,
        headers: { 'Content-Type': type },
        body: body as BodyInit,
        signal: AbortSignal.timeout(PATIENCE),
      });
    // A connection that was idle for long may just have been closed: that is no fault, and is asked again, as a browser does.
    const response = await once().catch((error: Error) => (error.name === 'TypeError' ? once() : Promise.reject(error)));
    const name = `${kind} ${response.status}`;
    statuses.set(name, (statuses.get(name) ?? 0) + 1);
    if (response.status >= 500) faults.push(`${response.status} ${asked}`);
    return response;
  } catch (error) {
    faults.push(`no answer: ${asked}, while ${[...underWay].join('; ')}`);
    throw error;
  }
}

/** Does so much work, so many at a time. */
async function each(count: number, at: number, work: (k: number) => Promise<void>): Promise<void> {
  let next = 0;
  await Promise.all(
    Array.from({ length: at }, async () => {
      while (next < count) await work(next++);
    }),
  );
}

let over = false;
let [pause, memory, slow] = [0, 0, ''];
/** What is asked just now. */
const underWay = new Set<string>();
const doing = (): string => [...underWay].join('; ');
const watching = (async () => {
  while (!over) {
    const asked = performance.now();
    await fetch(`${server.url}/api/health`, { signal: AbortSignal.timeout(PATIENCE) })
      .then((r) => r.arrayBuffer())
      .catch(() => undefined);
    const took = (performance.now() - asked) / 1000;
    if (took > pause) [pause, slow] = [took, doing()];
    memory = Math.max(memory, Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.process.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024);
    await new Promise((done) => setTimeout(done, 20));
  }
})();

try {
  for (const path of ['/waters/{water}', '/waters/{water}/trips/{trip}', '/trips/{trip}/contacts/{mark}']) {
    const [method, , body] = WAYS.find(([, p]) => p === path)!;
    await send('right', method, filled(path, there, ''), JSON.stringify(body));
  }
  let began = performance.now();
  await each(COUNT, 6, async (k) => {
    const { method, path, body } = requests[k];
    const what = `${method} ${path.slice(0, 100)} ${body?.slice(0, 200) ?? ''}`;
    underWay.add(what);
    await (await send('request', method, path, body)).arrayBuffer();
    underWay.delete(what);
  });
  console.log(`${COUNT} requests in ${((performance.now() - began) / 1000).toFixed(0)} s, ${memory.toFixed(0)} MB`);

  const random = seeded(SEED);
  began = performance.now();
  await each(COUNT, 4, async (k) => {
    if (k % 5000 === 0) console.log(`${k} files, ${memory.toFixed(0)} MB`);
    const upload = newId();
    const { name, bytes } = bentFile(files, random);
    const what = `file ${k}: ${name}, ${bytes.length} bytes`;
    underWay.add(what);
    const sent = await send('upload', 'PUT', `/uploads/${upload}/${encodeURIComponent(name)}`, bytes, 'application/octet-stream');
    await sent.arrayBuffer();
    // One in fifty goes in.
    const water = `Mere ${k}`;
    if (k % 50) await (await send('preview', 'POST', '/imports/preview', JSON.stringify({ upload, water, create: true }))).arrayBuffer();
    else {
      const { job } = (await (await send('import', 'POST', '/imports', JSON.stringify({ upload, water, create: true }))).json()) as {
        job: string;
      };
      for (;;) {
        const { state, error } = (await (await send('job', 'GET', `/jobs/${job}`)).json()) as { state: string; error: string | null };
        if (state === 'done') statuses.set('import done', (statuses.get('import done') ?? 0) + 1);
        if (
          state === 'failed' &&
          /TypeError|undefined|RangeError|stack|null value|syntax|violates|invalid input|escape sequence/.test(error ?? '')
        )
          faults.push(`import of ${name}: ${error}`);
        if (['done', 'failed', 'cancelled'].includes(state)) break;
        await new Promise((done) => setTimeout(done, 50));
      }
    }
    underWay.delete(what);
  });
  console.log(`${COUNT} files in ${((performance.now() - began) / 1000).toFixed(0)} s`);
} catch (error) {
  faults.push(String(error));
} finally {
  over = true;
  await watching;
  await server.stop(faults.length ? 'SIGKILL' : 'SIGTERM');
  folder.remove();
}
console.log(Object.fromEntries([...statuses].sort()));
if (slow) console.log(`the longest pause came with ${slow}`);
said.slice(0, 10).forEach((line) => console.log(line));
faults.slice(0, 20).forEach((fault) => console.log(fault));
finish([
  held('answers of 5xx, and imports that end in words of a program', faults.length, '<=', 0),
  held('longest pause', pause, '<=', 1, ' s'),
  held('most memory', memory, '<=', 1000, ' MB'),
]);
