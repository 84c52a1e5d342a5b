import { existsSync, readdirSync, statSync } from 'node:fs';
import { SetUpError } from '../cluster';
import { waterByName } from '../db/waters';
import type { Blur } from '@restless-shoal/core/geo';
import { exportFolder, exportSharedFolder } from '../export';
import { NoSuchWaterError } from '../import/import-terms';
import type { Context } from './context';

/** Writes a water out as a folder of open formats. @param blur how places are blurred for others; null shows them as they are */
export async function exportCommand({ pool, account }: Context, name: string, to: string, blur: Blur | null): Promise<void> {
  const water = await waterByName(pool, account, name);
  if (!water) throw new NoSuchWaterError(`there is no water "${name}"`);
  if (existsSync(to) && !statSync(to).isDirectory()) throw new SetUpError(`${to} is a file; --to names a folder`);
  if (existsSync(to) && readdirSync(to).length > 0) throw new SetUpError(`the folder ${to} is not empty; nothing was written`);
  if (blur !== null) {
    const files = await exportSharedFolder(pool, water, blur, to);
    console.log(`${water.name} for others to ${to}, places to ${blur === 'areas' ? 'areas of your own' : `${blur} m`}`);
    for (const file of files) console.log(`  ${file}`);
    return;
  }
  const { written, left } = await exportFolder(pool, water, to);
  console.log(`${water.name} to ${to}`);
  for (const { file, rows } of written) console.log(`  ${file}${rows === null ? '' : `: ${rows} rows`}`);
  if (left.length) console.log(`  nothing for ${left.join(', ')}`);
  console.log('  Charts made by this program are not for navigation.');
}
