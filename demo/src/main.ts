import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { makeLogbook } from './logbook';

// Writes a made-up water and its log as a folder of the exchange formats.
const { values } = parseArgs({
  options: { seed: { type: 'string', default: '8' }, trips: { type: 'string', default: '60' }, to: { type: 'string' } },
});
if (!values.to || !/^\d+$/.test(values.seed) || !/^\d+$/.test(values.trips)) {
  console.error('usage: npm run make -w demo -- --to FOLDER [--seed N] [--trips N]');
  process.exit(2);
}
const { folder, world } = makeLogbook({ seed: Number(values.seed), trips: Number(values.trips) });
mkdirSync(values.to, { recursive: true });
for (const [name, text] of folder) writeFileSync(join(values.to, name), text);
console.log(
  `${world.name}: ${[...folder].map(([name, text]) => `${name} ${name.endsWith('.csv') ? `${text.split('\n').length - 2} rows` : 'written'}`).join(', ')}`,
);
