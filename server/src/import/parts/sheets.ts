import { firstRowNames } from '@restless-shoal/core/tables';
import { runSheets } from '../../jobs/pool';
import { SAMPLE, type FilePart } from './part';
import type { SheetsTask } from './read-sheets';
import { uniqueNames } from './text';

/** The table of a sheet: from its first row with several cells on. */
function sheetPart(file: string, sheet: string, rows: string[][], day: string | null): FilePart | null {
  const start = rows.findIndex((r) => r.filter((c) => c.trim() !== '').length >= 2);
  if (start < 0) return null;
  const table = rows.slice(start);
  const header = firstRowNames(table.slice(0, SAMPLE));
  const width = Math.max(...table.map((r) => r.length));
  const body = table.slice(header ? 1 : 0).map((fields, k) => ({ line: start + (header ? 2 : 1) + k, fields }));
  return {
    file,
    part: `sheet ${sheet}`,
    columns: header ? uniqueNames(Array.from({ length: width }, (_, k) => table[0][k] ?? '')) : null,
    sample: body.slice(0, SAMPLE).map((r) => r.fields),
    crs: null,
    day,
    rows: async function* () {
      yield await Promise.resolve(body.filter((r) => r.fields.some((f) => f.trim() !== '')));
    },
  };
}

/** The sheets of a spreadsheet that hold a table. @throws FormatError when it is none */
export async function sheetParts(kind: SheetsTask['kind'], file: string, bytes: Uint8Array, day: string | null): Promise<FilePart[]> {
  const sheets = await runSheets({ kind, name: file, bytes });
  return sheets.map(({ name, rows }) => sheetPart(file, name, rows, day)).filter((part): part is FilePart => part !== null);
}
