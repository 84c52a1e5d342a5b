import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import type { Plugin } from 'esbuild';
import { connectTo, prepareWater, serve, temporaryFolder } from '../../e2e/harness';
import { derivationCode } from '../derivation-code.mjs';

/** What changes with a change of one file. */
async function changedBy(file: RegExp, from: string | RegExp, to: string): Promise<string[]> {
  let met = 0;
  const edited: Plugin = {
    name: 'edited',
    setup: ({ onLoad }) =>
      onLoad({ filter: file }, ({ path }) => {
        const contents = readFileSync(path, 'utf8');
        if (contents.replace(from, to) !== contents) met++;
        return { contents: contents.replace(from, to), loader: 'ts' };
      }),
  };
  const [before, after] = [await derivationCode(), await derivationCode([edited])];
  expect(met, 'the file was changed').to.be.above(0);
  return (Object.keys(before) as (keyof typeof before)[]).filter((name) => before[name] !== after[name]);
}

describe('what derived data were made by', () => {
  it('is another code once anything that makes them is another, and no other', async () => {
    expect(await changedBy(/forecast\/search\.ts$/, 'const PRIOR_WEIGHT = 1.5', 'const PRIOR_WEIGHT = 1.6')).to.deep.equal([
      'fit',
      'scores',
    ]);
    expect(await changedBy(/forecast\/validate\.ts$/, /\.sort\(/, '.toSorted(')).to.deep.equal(['scores']);
    expect(await changedBy(/chart\/cover-points\.ts$/, /'wood'/, "'timber'")).to.deep.equal(['chart']);
  });
  it('is the same code with other comments', async () =>
    expect(await changedBy(/forecast\/search\.ts$/, '/** Coefficients', '/** All coefficients')).to.deep.equal([]));

  it('makes a chart of an older version anew when a server starts', async () => {
    const data = temporaryFolder();
    await prepareWater(data.path, 8, 2);
    const first = await serve(data.path);
    const client = await connectTo(data.path);
    const chart = async (): Promise<{ id: number; code: string }> =>
      (await client.query<{ id: number; code: string }>('SELECT id::int4, code FROM charts')).rows[0];
    const before = await chart();
    expect(before.code).to.match(/^[0-9a-f]{16}$/);
    await client.query("UPDATE charts SET code = 'older'");
    await client.end();
    await first.stop();
    const second = await serve(data.path);
    const again = await connectTo(data.path);
    try {
      for (const end = Date.now() + 60_000; Date.now() < end; await new Promise((done) => setTimeout(done, 200))) {
        const { rows } = await again.query<{ id: number; code: string }>('SELECT id::int4, code FROM charts');
        if (rows[0].id === before.id) continue;
        expect(rows[0].code).to.equal(before.code);
        return;
      }
      throw new Error('the chart was not built anew');
    } finally {
      await again.end();
      await second.stop();
      data.remove();
    }
  });
});
