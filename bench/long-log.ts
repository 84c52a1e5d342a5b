import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { csvRows } from '@restless-shoal/core/formats';
import { seeded } from '@restless-shoal/core/numbers';
import { makeLogbook } from '@restless-shoal/demo';

const DAY = 86_400_000;
const TIMES = ['time', 'start', 'end'];

/**
 * Writes a log of ten years: the trips of a made-up water over and over, on other days of other years, with as many
 * contacts as asked for.
 * @returns the water's name
 */
export async function writeLongLog(
  to: string,
  { seed, trips, contacts }: { seed: number; trips: number; contacts: number },
): Promise<string> {
  const base = 60;
  const { folder, world } = makeLogbook({ seed, trips: base });
  const copies = Math.ceil(trips / base);
  const random = seeded(seed);
  mkdirSync(to, { recursive: true });
  for (const [file, text] of folder) {
    if (!file.endsWith('.csv') || file === 'soundings.csv') {
      writeFileSync(join(to, file), text);
      continue;
    }
    const rows: string[][] = [];
    for await (const some of csvRows([new TextEncoder().encode(text)])) for (const { fields } of some) rows.push(fields);
    const [header, ...lines] = rows;
    const at = (name: string): number => header.indexOf(name);
    const times = TIMES.map(at).filter((k) => k >= 0);
    const [trip, contact] = [at('trip'), at('contact')];
    // A contact too few is made up by one beside it.
    const again = file === 'contacts.csv' ? contacts / (lines.length * copies) : 1;
    const out = [header.join(',')];
    for (let copy = 0; copy < copies; copy++) {
      const shift = ((copy % 10) * 365 + 3 * Math.floor(copy / 10)) * DAY;
      for (const line of lines)
        for (let k = 0; k + random() < again; k++) {
          const fields = [...line];
          for (const t of times) if (fields[t]) fields[t] = new Date(Date.parse(fields[t]) - shift).toISOString();
          fields[trip] = `${fields[trip]} ${copy}`;
          if (file === 'contacts.csv' && k > 0) {
            fields[contact] = `${fields[contact]} ${k}`;
            fields[times[0]] = new Date(Date.parse(fields[times[0]]) + 1000 * k).toISOString();
          }
          out.push(fields.map((f) => (/[",\n]/.test(f) ? `"${f.replaceAll('"', '""')}"` : f)).join(','));
        }
    }
    writeFileSync(join(to, file), `${out.join('\n')}\n`);
  }
  return world.name;
}
