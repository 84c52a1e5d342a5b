import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { benchFolder, finish, held } from './support';

// Sixty ends of server, database or both, at random moments of starting, writing, importing, backing up, restoring and
// charting, while twenty decks log twenty thousand marks, the disk fills and empties, and the clock goes back and forth.

const [MARKS, KILLS] = [Number(process.argv[2] ?? 20_000), Number(process.argv[3] ?? 60)];
/** Room for a database and what it writes ahead, MB. */
const DISK_MB = 1200;

process.env.SHOAL_MAIN = fileURLToPath(new URL('./main.mjs', import.meta.url));
const { torture } = await import('../e2e/torture');
const { serve } = await import('../e2e/harness');

if (process.getuid?.() !== 0) throw new Error('this bench fills a disk of its own, which only root can make');
const folder = benchFolder();
const data = join(folder.path, 'data');
mkdirSync(data);
execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK_MB}m,mode=0755`, 'shoal', data]);
const began = Date.now();
try {
  const files = join(folder.path, 'files');
  const how = { data, files, decks: 20, marks: MARKS, kills: KILLS, every: 5500, seed: 19, fills: { times: 2, ms: 8000 }, clock: true };
  const found = await torture({ ...how, say: (line) => console.log(`${((Date.now() - began) / 1000).toFixed(0)} s: ${line}`) });
  console.log(JSON.stringify({ ...found, odd: found.odd.slice(0, 20) }, null, 1));
  const six = await Promise.allSettled(Array.from({ length: 6 }, () => serve(data)));
  const up = six.flatMap((s) => (s.status === 'fulfilled' ? [s.value] : []));
  for (const server of up) await server.stop();
  finish([
    held(
      'processes ended',
      Object.values(found.kills).reduce((a, b) => a + b),
      '>=',
      KILLS,
    ),
    held('marks logged', found.marks.logged, '>=', MARKS),
    held('acknowledged marks lost', found.marks.lost, '<=', 0),
    held('marks there twice', found.marks.doubled, '<=', 0),
    held('imported rows missing or doubled', Math.abs(found.imported.rows - found.imported.there), '<=', 0),
    held('imports', found.imported.imports, '>=', 5),
    held('backups', found.backups.made, '>=', 5),
    held('backups that cannot be read or lack what was acknowledged', found.backups.broken + found.backups.short, '<=', 0),
    held('restores', found.restores.done, '>=', 3),
    held('restores that are not the backup', found.restores.wrong, '<=', 0),
    held('files left half made', found.left.length, '<=', 0),
    held('answers that say neither done, try again nor disk full', found.odd.length, '<=', 0),
    held('"disk full" was said', Number(found.saidFull), '>=', 1),
    held('longest time without an answer', found.longestDown, '<=', 30, ' s'),
    held('of six starts at once one serves', Math.abs(up.length - 1), '<=', 0),
    held('minutes', (Date.now() - began) / 60_000, '<=', 12),
  ]);
} finally {
  execFileSync('umount', ['-l', data]);
  folder.remove();
}
