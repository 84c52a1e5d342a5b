import type { ImportedFile } from '../import/import-terms';
import { findSources, type Source } from '../import/sources';
import { importAndReady, type ImportRequest, type ReadyImport } from '../jobs/import-and-ready';
import { readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { FormatError, type FindingList } from '@restless-shoal/core/formats';
import { readMapping } from '@restless-shoal/core/tables';
import { OpenQuestionsError } from '../import/look-into';
import { USUAL_RANGE } from '@restless-shoal/core/logbook';
import type { LineList } from '../db/merge';
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
  if (merge.trashed) parts.push(`in the trash, left there ${merge.trashed}`);
  say(`  ${report.file}: ${parts.join(', ')}`);
  if (report.unknownColumns.length) say(`    not known and passed over: ${report.unknownColumns.join(', ')}`);
  if (report.rangeUnsaid)
    say(`    ${report.rangeUnsaid} fixes of a side-scan or forward-facing view say no range: ${USUAL_RANGE} m is taken`);
  sayFindings(say, 'left out', report.bad);
  sayFindings(say, 'odd, kept and flagged', report.odd);
  if (merge.different.count && !update)
    say(
      `    ${merge.different.count} with the same key but other content, left as they were (--update changes them): ${linesOf(merge.different)}`,
    );
  if (merge.beside.count)
    say(
      `    ${merge.beside.count} added as records of their own beside others of the same time${update ? '' : ' (--update changes those instead)'}: ${linesOf(merge.beside)}`,
    );
}

const linesOf = ({ count, lines }: LineList): string =>
  `line${count > 1 ? 's' : ''} ${lines.slice(0, 10).join(', ')}${count > 10 ? ' …' : ''}`;

/** Says what an import did, in counts. */
function sayImport(say: Say, { imported, water, chart, hasChart, looks }: ReadyImport, update: boolean): void {
  say(`${imported.created ? 'made' : 'into'} ${imported.water.name}`);
  for (const file of imported.files) sayFile(say, file, update);
  for (const { file, why } of imported.passedOver) say(`  ${file}: passed over (${why})`);
  if (imported.unknownPlaces.length)
    say(
      `  places that stand for no spot yet: ${imported.unknownPlaces.map((p) => `${p.name} (${p.rows})`).join(', ')}; their fish are in the log without a place (say where they lie in mapping.json, places, and import again with --update)`,
    );
  if (imported.newSpecies.length)
    say(`  species not known before, now local to this water with neutral values: ${imported.newSpecies.join(', ')}`);
  if (!chart) say(hasChart ? '  chart: still right' : '  chart: none yet, there is neither outline nor enough soundings');
  else if (chart.soundings === 0) say(`  chart: ${chart.cells} cells of 25 m from the outline; no soundings, so no depths yet`);
  else
    say(
      `  chart: built from ${chart.soundings} soundings, ${chart.cells} cells of 25 m${water.outline_proposed ? '; the outline is proposed from the soundings' : ''}`,
    );
  say(
    `  looks: ${looks.looks} from ${looks.trips} trips${looks.outside ? `; ${looks.outside} contacts lie outside all effort and enter no rate` : ''}`,
  );
}

/** Imports sources and says what came of it. */
export async function importAndSay(
  { pool, account }: Context,
  sources: Source[],
  request: ImportRequest,
  say: Say,
  options: Parameters<typeof importAndReady>[4] = {},
): Promise<void> {
  sayImport(say, await importAndReady(pool, account, sources, request, options), request.update);
}

/** Where the mapping is left that has to be completed: in the folder that the command was called from. */
const LEFT = 'mapping.json';

/**
 * Imports files, folders and ZIPs. Where something cannot be known from a file and no mapping says it, nothing is
 * imported and the mapping is left to be completed.
 * @param mapping path of a mapping.json @throws FormatError
 */
export async function importCommand(context: Context, paths: string[], request: ImportRequest, mapping: string | undefined): Promise<void> {
  const told = mapping === undefined ? undefined : readMapping(readText(mapping), basename(mapping));
  try {
    await importAndSay(context, await findSources(paths), { ...request, mapping: told }, (line) => console.log(line));
  } catch (error) {
    if (!(error instanceof OpenQuestionsError)) throw error;
    const left = mapping ?? LEFT;
    writeFileSync(left, error.text);
    throw new FormatError(
      `nothing was imported: something cannot be known from the files.\n${error.message}\nComplete ${left} and import again with --mapping ${left}`,
    );
  }
}

function readText(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    throw new FormatError(`${path}: there is no such file`);
  }
}
