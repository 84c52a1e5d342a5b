import { existsSync } from 'node:fs';
import { SetUpError } from '../cluster';
import { readBackup, writeBackup, type Manifest } from '../backup';
import { waterById, listWaters } from '../db/waters';
import { watersWantingCharts } from '../db/charts';
import { freshLooks } from '../jobs/looks';
import { buildWaterChart } from '../jobs/ready';
import type { Context } from './context';
import { codeOf } from '../jobs/derivations';

const counts = ({ files }: Manifest): string =>
  files
    .filter((f) => f.rows > 0 && f.file !== 'accounts.ndjson')
    .map((f) => `${f.rows} ${f.file.replace('.ndjson', '')}`)
    .join(', ') || 'an empty logbook';

/** Writes the whole logbook into one file, which has its name only once it is whole and was read back. */
export async function backupCommand({ pool }: Context, to: string): Promise<void> {
  if (existsSync(to)) throw new SetUpError(`${to} is there already; nothing was written`);
  const manifest = await writeBackup(pool, to).catch((error: NodeJS.ErrnoException) => {
    throw error.syscall ? new SetUpError(`${to} cannot be written: ${error.message}`) : error;
  });
  console.log(`backup ${to}: ${counts(manifest)}`);
}

/** Brings a backup into an empty installation and leaves its waters ready. */
export async function restoreCommand({ pool }: Context, from: string): Promise<void> {
  if (!existsSync(from)) throw new SetUpError(`there is no file ${from}`);
  const manifest = await readBackup(pool, from);
  console.log(`restored ${from}: ${counts(manifest)}`);
  const { rows } = await pool.query<{ id: string }>('SELECT id FROM accounts');
  for (const { id: account } of rows) {
    const wanting = await watersWantingCharts(pool, account, codeOf('chart'));
    for (const { id } of await listWaters(pool, account)) {
      const water = (await waterById(pool, account, id))!;
      const chart = wanting.includes(id) ? await buildWaterChart(pool, water) : null;
      const trips = await freshLooks(pool, (await waterById(pool, account, id))!);
      const looks = trips.reduce((n, t) => n + t.looks.length, 0);
      console.log(`  ${water.name}: ${chart ? `chart of ${chart.cells} cells, ` : ''}${looks} looks`);
    }
  }
}
