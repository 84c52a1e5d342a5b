import { build } from 'esbuild';

// The server and its workers as plain modules: a command starts in a moment. Packages stay outside.
await build({
  entryPoints: { main: 'src/main.ts', worker: 'src/jobs/worker.ts' },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: 'linked',
  packages: 'external',
  alias: Object.fromEntries(
    ['chart', 'forecast', 'formats', 'geo', 'lake', 'logbook', 'passage', 'patterns', 'sonar', 'species', 'tables', 'units']
      .map((room) => [`@restless-shoal/core/${room}`, `../core/src/${room}/index.ts`])
      .concat([['@restless-shoal/demo', '../demo/src/index.ts']]),
  ),
  logLevel: 'warning',
});
