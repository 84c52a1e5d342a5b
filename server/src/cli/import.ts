import { importInto, type ImportedFile, type ImportResult } from '../import/import';
import { findSources, type Source } from '../import/sources';
import { waterById } from '../db/waters';
import { latestChartId } from '../db/charts';
import { buildWaterChart, freshLooks } from '../jobs/ready';
import type { FindingList } from '@restless-shoal/core/formats';
import type { Context } from './context';

type Say = (line: string) => void;

function sayFindings(say: Say, what: string, { count, first }: FindingList): void {
  if (!count) return;
  say(`    ${count} ${what}:`);
  for (const f of first.slice(0, 10)) say(`      line ${f.line}${f.column ? `, ${f.column}` : ''}: ${f.reason}`);
  if (count > 10) say(`      and ${count - 10} more`);
}

function sayFile(say: Say, { report, merge }: ImportedFile, update: boolean): void {
  const parts = [`read ${report.read}`, `added ${merge.added}`, `known already ${merge.same}`];
  if (merge.changed) parts.push(`changed ${merge.changed}`);
  if (report.bad.count) parts.push(`left out ${report.bad.count}`);
  say(`  ${report.file}: ${parts.join(', ')}`);
  if (report.unknownColumns.length) say(`    not known and passed over: ${report.unknownColumns.join(', ')}`);
  sayFindings(say, 'left out', report.bad);
  sayFindings(say, 'odd, kept and flagged', report.odd);
  if (merge.different.count && !update)
    say(
      `    ${merge.different.count} with the same key but other content, left as they were (--update changes them): line${merge.different.count > 1 ? 's' : ''} ${merge.different.lines.slice(0, 10).join(', ')}${merge.different.count > 10 ? ' …' : ''}`,
    );
}

/** Imports sources and leaves the water ready: outline, chart, looks. */
export async function importAndReady(
  context: Context,
  sources: Source[],
  options: { water: string; create: boolean; update: boolean },
  say: Say,
): Promise<ImportResult> {
  const { pool, account } = context;
  const result = await importInto(pool, account, sources, options);
  say(`${result.created ? 'made' : 'into'} ${result.water.name}`);
  for (const file of result.files) sayFile(say, file, options.update);
  for (const { file, why } of result.passedOver) say(`  ${file}: passed over (${why})`);
  if (result.newSpecies.length)
    say(`  species not known before, now local to this water with neutral values: ${result.newSpecies.join(', ')}`);
  const water = (await waterById(pool, account, result.water.id))!;
  if (result.chartStale || (await latestChartId(pool, water.id)) == null) {
    const chart = await buildWaterChart(pool, water);
    say(
      chart
        ? chart.soundings === 0
          ? `  chart: ${chart.cells} cells of 25 m from the outline; no soundings, so no depths yet`
          : `  chart: built from ${chart.soundings} soundings, ${chart.cells} cells of 25 m${water.outline_proposed ? '; the outline is proposed from the soundings' : ''}`
        : '  chart: none yet, there is neither outline nor enough soundings',
    );
  } else say('  chart: still right');
  const trips = await freshLooks(pool, water);
  const looks = trips.reduce((n, t) => n + t.looks.length, 0);
  const outside = trips.reduce((n, t) => n + t.outside.length, 0);
  say(`  looks: ${looks} from ${trips.length} trips${outside ? `; ${outside} contacts lie outside all effort and enter no rate` : ''}`);
  return result;
}

export async function importCommand(
  context: Context,
  paths: string[],
  options: { water: string; create: boolean; update: boolean },
): Promise<void> {
  await importAndReady(context, findSources(paths), options, (line) => console.log(line));
}
