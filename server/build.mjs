import { existsSync, readdirSync, rmSync } from 'node:fs';
import { build, context } from 'esbuild';
import { alias, derivationCode } from './derivation-code.mjs';

// The server and its workers as plain modules: a command starts in a moment. Packages stay outside.
const options = {
  entryPoints: { main: 'src/main.ts', worker: 'src/jobs/worker.ts', 'job-thread': 'src/jobs/job-thread.ts' },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  // A command loads what it needs.
  splitting: true,
  chunkNames: 'part-[hash]',
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: 'linked',
  packages: 'external',
  alias,
  logLevel: 'warning',
};
options.define = { DERIVATION_CODE: JSON.stringify(await derivationCode()) };
// Parts have other names as soon as they change.
if (existsSync('dist')) for (const file of readdirSync('dist')) if (file.startsWith('part-')) rmSync(`dist/${file}`);
if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
