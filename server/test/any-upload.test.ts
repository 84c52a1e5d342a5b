import { expect } from 'chai';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { newId } from '@restless-shoal/core/logbook';
import { seeded } from '@restless-shoal/core/numbers';
import { bentFile, rightFiles } from '../../e2e/any-file';
import { serve, temporaryFolder, type RunningServer } from '../../e2e/harness';

// Whatever file is sent: it is understood, or refused in words that name it; the server answers others meanwhile.

const data = temporaryFolder();
let server: RunningServer;
before(async () => (server = await serve(data.path)));
after(async () => {
  await server.stop();
  data.remove();
});

const PROGRAM = /TypeError|undefined|RangeError|null value|syntax error|violates|invalid input|escape sequence/;

async function send(
  method: string,
  path: string,
  body?: string | Uint8Array,
  type = 'application/json',
): Promise<{ status: number; text: string }> {
  const signal = AbortSignal.timeout(20_000);
  const response = await fetch(`${server.url}/api${path}`, {
    method,
    headers: { 'Content-Type': type },
    body: body as RequestInit['body'],
    signal,
  });
  return { status: response.status, text: await response.text() };
}

describe('any file', () => {
  it('bent somewhere is looked into, or refused in words', async function () {
    this.timeout(300_000);
    const right = join(data.path, 'right');
    mkdirSync(right);
    const files = await rightFiles(right);
    const random = seeded(Math.floor(Math.random() * 1e9));
    for (let k = 0; k < 250; k++) {
      const [upload, water] = [newId(), `Mere ${k}`];
      const { name, bytes } = bentFile(files, random);
      const what = `${name}: ${Buffer.from(bytes).toString('base64').slice(0, 4000)}`;
      const path = `/uploads/${upload}/${encodeURIComponent(name)}`;
      expect((await send('PUT', path, bytes, 'application/octet-stream')).status, what).to.equal(200);
      const asked = JSON.stringify({ upload, water, create: true });
      const looked = await send('POST', '/imports/preview', asked);
      expect(looked.status, what).to.be.oneOf([200, 400]);
      if (looked.status === 400) expect(looked.text, what).to.not.match(PROGRAM);
      if (k % 25) continue;
      const { job } = JSON.parse((await send('POST', '/imports', asked)).text) as { job: string };
      for (let state = ''; !['done', 'failed'].includes(state);) {
        const told = JSON.parse((await send('GET', `/jobs/${job}`)).text) as { state: string; error: string | null };
        state = told.state;
        expect(told.error ?? '', what).to.not.match(PROGRAM);
        await new Promise((done) => setTimeout(done, 50));
      }
    }
  });
});
