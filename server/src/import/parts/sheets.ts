import readWorkbook from 'read-excel-file/node';
import { strFromU8, unzipSync } from 'fflate';
import { DOMParser } from '@xmldom/xmldom';
import { FormatError } from '@restless-shoal/core/formats';
import { firstRowNames } from '@restless-shoal/core/tables';
import { SAMPLE, type FilePart } from './part';
import { uniqueNames } from './text';

const DAY = 86_400_000;

/** A cell as text: dates as a spreadsheet shows them, by its own clock. */
function cellText(cell: unknown): string {
  if (cell === null || cell === undefined) return '';
  if (cell instanceof Date) {
    // Days with fractions are kept: a second is as fine as they are meant.
    const at = new Date(Math.round(cell.getTime() / 1000) * 1000).toISOString();
    // A time of day without a date is kept as one on the calendar's first day.
    if (cell.getTime() < -2e12) return at.slice(11, 19);
    return cell.getTime() % DAY === 0 ? at.slice(0, 10) : at.slice(0, 19);
  }
  return String(cell);
}

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

/** The sheets of an XLSX spreadsheet. @throws FormatError when it is none */
export async function xlsxParts(file: string, bytes: Buffer, day: string | null): Promise<FilePart[]> {
  try {
    const parts: FilePart[] = [];
    for (const { sheet, data } of await readWorkbook(bytes)) {
      const rows = data.map((row) => row.map(cellText));
      const part = sheetPart(file, sheet, rows, day);
      if (part) parts.push(part);
    }
    return parts;
  } catch (error) {
    throw new FormatError(`${file}: is no XLSX spreadsheet that can be read: ${(error as Error).message}`);
  }
}

/** Repeats beyond this are the empty rest of a sheet. */
const MOST_REPEATS = 2000;

/** The sheets of an ODS spreadsheet (OASIS OpenDocument 1.2, content.xml). @throws FormatError when it is none */
export function odsParts(file: string, bytes: Uint8Array, day: string | null): FilePart[] {
  let text: string;
  try {
    const { 'content.xml': content } = unzipSync(bytes, { filter: (f) => f.name === 'content.xml' });
    text = strFromU8(content);
  } catch (error) {
    throw new FormatError(`${file}: is no ODS spreadsheet that can be read: ${(error as Error).message}`);
  }
  const document = new DOMParser({ onError: () => undefined }).parseFromString(text, 'text/xml');
  const parts: FilePart[] = [];
  for (const table of Array.from(document.getElementsByTagName('table:table'))) {
    const rows: string[][] = [];
    for (const row of Array.from(table.getElementsByTagName('table:table-row'))) {
      const cells: string[] = [];
      for (const cell of Array.from(row.childNodes)) {
        const element = cell as unknown as { nodeName: string; getAttribute(name: string): string | null; getElementsByTagName(name: string): ArrayLike<{ textContent: string | null }> }; // prettier-ignore
        if (!/^table:(covered-)?table-cell$/.test(element.nodeName)) continue;
        const value = element.getAttribute('office:date-value') ?? element.getAttribute('office:value') ?? Array.from(element.getElementsByTagName('text:p'), (p) => p.textContent ?? '').join(' '); // prettier-ignore
        const repeats = Number(element.getAttribute('table:number-columns-repeated') ?? 1);
        for (let k = 0; k < Math.min(repeats, value === '' ? 64 : MOST_REPEATS); k++) cells.push(value);
      }
      while (cells.at(-1) === '') cells.pop();
      const repeats = Number(row.getAttribute('table:number-rows-repeated') ?? 1);
      for (let k = 0; k < (cells.length ? Math.min(repeats, MOST_REPEATS) : 1); k++) rows.push(cells);
    }
    const part = sheetPart(file, table.getAttribute('table:name') ?? 'sheet', rows, day);
    if (part) parts.push(part);
  }
  return parts;
}
