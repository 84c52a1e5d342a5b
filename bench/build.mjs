import { readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

// Benches run as the application does, bundled and beside it: what a test runner adds is not measured.
const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, '..');
await build({
  entryPoints: Object.fromEntries(
    readdirSync(here)
      .filter((f) => /^[a-z-]+\.ts$/.test(f) && f !== 'support.ts')
      .map((f) => [`bench-${f.replace(/\.ts$/, '')}`, join(here, f)]),
  ),
  outdir: join(root, 'server/dist'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  alias: Object.fromEntries(
    ['chart', 'forecast', 'formats', 'geo', 'lake', 'logbook', 'passage', 'patterns', 'sonar', 'species', 'tables', 'units']
      .map((room) => [`@restless-shoal/core/${room}`, join(root, `core/src/${room}/index.ts`)])
      .concat([['@restless-shoal/demo', join(root, 'demo/src/index.ts')]]),
  ),
  logLevel: 'warning',
});
