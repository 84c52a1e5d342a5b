import { expect } from 'chai';
import fc from 'fast-check';
import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { openZip, writeZip } from '../src/zip';
import { temporaryFolder } from '../../e2e/harness';

const files = temporaryFolder();
after(() => files.remove());

/** Bytes that look like the signatures of a ZIP's parts, whole and in pieces. */
const signatures = fc
  .array(
    fc.oneof(
      fc.constantFrom('PK\u0001\u0002', 'PK\u0003\u0004', 'PK\u0005\u0006', 'PK\u0007\b', 'PK\u0006\u0006', 'PK', 'P'),
      fc.string({ maxLength: 6 }),
    ),
    { maxLength: 60 },
  )
  .map((parts) => Buffer.from(parts.join('')));

async function contents(path: string): Promise<[string, string][]> {
  const out: [string, string][] = [];
  for (const { name, bytes } of await openZip(path, 'any.zip')) {
    const pieces: Uint8Array[] = [];
    for await (const piece of bytes()) pieces.push(piece);
    out.push([name, Buffer.concat(pieces).toString('hex')]);
  }
  return out;
}

describe('a ZIP whose bytes look like its own signatures', () => {
  let count = 0;
  it('comes out as it went in, packed or not', () =>
    fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(signatures, fc.boolean()), { minLength: 1, maxLength: 5 }), async (bodies) => {
        const path = join(files.path, `${++count}.zip`);
        const zip = new ZipFile();
        bodies.forEach(([body, compress], k) => zip.addBuffer(body, `${k}.ndjson`, { compress }));
        zip.end();
        await pipeline(zip.outputStream, createWriteStream(path));
        expect(await contents(path)).to.deep.equal(bodies.map(([body], k) => [`${k}.ndjson`, body.toString('hex')]));
      }),
      { numRuns: Number(process.env.SHOAL_RUNS ?? 150) },
    ));
  it('written as it comes is the same bytes for the same content, whatever the pieces', () =>
    fc.assert(
      fc.asyncProperty(signatures, fc.integer({ min: 1, max: 50 }), async (body, size) => {
        const cut = Array.from({ length: Math.ceil(body.length / size) }, (_, k) => body.subarray(k * size, (k + 1) * size));
        const paths = [join(files.path, `${++count}.zip`), join(files.path, `${++count}.zip`)];
        for (const [k, pieces] of [[body], cut].entries())
          await writeZip(createWriteStream(paths[k]), (add) =>
            add(
              'rows.ndjson',
              pieces.filter((p) => p.length > 0),
            ),
          );
        expect(await contents(paths[0])).to.deep.equal([['rows.ndjson', body.toString('hex')]]);
        expect(await contents(paths[1])).to.deep.equal(await contents(paths[0]));
      }),
      { numRuns: 50 },
    ));
  it('that fails while it is filled is no ZIP, and says why', async () => {
    const path = join(files.path, 'failed.zip');
    const failing = async function* (): AsyncGenerator<Uint8Array> {
      yield await Promise.resolve(new Uint8Array(100_000));
      throw new Error('the table ended');
    };
    const why = await writeZip(createWriteStream(path), (add) => add('rows.ndjson', failing())).catch((error: Error) => error.message);
    expect(why).to.equal('the table ended');
  });
});
