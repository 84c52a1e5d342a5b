import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

// What is derived from a log is kept, and made anew when what it was made by has changed: told by the code itself, as it
// is built, so that nobody has to remember to count a number up.

const here = dirname(fileURLToPath(import.meta.url));
/** Where the rooms of `core` and the demo lie, for bundles. */
export const alias = Object.fromEntries(
  readdirSync(join(here, '../core/src'), { withFileTypes: true })
    .filter((room) => room.isDirectory())
    .map(({ name }) => name)
    .map((room) => [`@restless-shoal/core/${room}`, join(here, `../core/src/${room}/index.ts`)])
    .concat([['@restless-shoal/demo', join(here, '../demo/src/index.ts')]]),
);

const worker = (...names) => `export { ${names.join(', ')} } from './src/jobs/worker.ts';`;
/** What each derivation runs. */
const RUNS = {
  chart: worker('bottom', 'shapes', 'cells'),
  looks: worker('looks'),
  fit: worker('fit'),
  scores: worker('score'),
  logbook: `export { packLogbook } from '@restless-shoal/core/patterns'; export { lookedAt } from '@restless-shoal/core/forecast';`,
};

/** Versions of packages that are not in the bundle. */
const installed = (name) => {
  const lock = JSON.parse(readFileSync(join(here, '../package-lock.json'), 'utf8'));
  return (
    lock.packages[
      `node_modules/${name
        .split('/')
        .slice(0, name.startsWith('@') ? 2 : 1)
        .join('/')}`
    ]?.version ?? ''
  );
};

/** A digest of the code of each derivation: of all that it reaches and nothing else, without comments. @param plugins of esbuild */
export async function derivationCode(plugins = []) {
  const digests = {};
  for (const [derivation, contents] of Object.entries(RUNS)) {
    const built = await build({
      stdin: { contents, resolveDir: here },
      absWorkingDir: here,
      bundle: true,
      write: false,
      metafile: true,
      minify: true,
      platform: 'node',
      target: 'node20',
      format: 'esm',
      packages: 'external',
      alias,
      plugins,
    });
    const outside = Object.values(built.metafile.outputs).flatMap((o) => o.imports.map((i) => `${i.path} ${installed(i.path)}`));
    const text = [built.outputFiles[0].text, ...outside.sort()].join('\n');
    digests[derivation] = createHash('sha256').update(text).digest('hex').slice(0, 16);
  }
  return digests;
}
