import { readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { alias, derivationCode } from '../server/derivation-code.mjs';

// Benches run as the application does, bundled and beside it: what a test runner adds is not measured.
const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, '..');
await build({
  entryPoints: Object.fromEntries(
    readdirSync(here)
      .filter((f) => /^[a-z-]+\.ts$/.test(f) && !['support.ts', 'long-log.ts'].includes(f))
      .map((f) => [`bench-${f.replace(/\.ts$/, '')}`, join(here, f)]),
  ),
  outdir: join(root, 'server/dist'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  alias,
  define: { DERIVATION_CODE: JSON.stringify(await derivationCode()) },
  logLevel: 'warning',
});
