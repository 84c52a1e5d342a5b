import readWorkbook from 'read-excel-file/node';
import { strFromU8, unzipSync, zipSync } from 'fflate';
import { DOMParser } from '@xmldom/xmldom';
import { FormatError } from '@restless-shoal/core/formats';

/** A sheet as text, row by row. */
export interface Sheet {
  name: string;
  rows: string[][];
}

export interface SheetsTask {
  kind: 'xlsx' | 'ods';
  name: string;
  bytes: Uint8Array;
}

const DAY = 86_400_000;

/** A spreadsheet unpacks to no more than this, bytes. */
const LARGEST = 300_000_000;

/** Repeats beyond this are the empty rest of a sheet. */
const MOST_REPEATS = 2000;

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

/** Sees to it that a spreadsheet is a ZIP of a bearable size before it is unpacked. @throws RangeError */
function checkSize(bytes: Uint8Array): void {
  let size = 0;
  unzipSync(bytes, { filter: ({ originalSize }) => ((size += originalSize), false) });
  if (size > LARGEST) throw new RangeError(`it unpacks to more than ${LARGEST / 1e6} MB`);
}

/**
 * The sheets of a spreadsheet: XLSX, or ODS (OASIS OpenDocument 1.2, content.xml). For a worker: a large one takes its
 * time, and some that are damaged never end. @throws FormatError when it is none
 */
export async function readSheets({ kind, name, bytes }: SheetsTask): Promise<Sheet[]> {
  try {
    checkSize(bytes);
    if (kind === 'ods') return odsSheets(bytes);
    // The reader waits for ever for the rest of a ZIP that is broken: it gets one that is whole.
    const whole = zipSync(unzipSync(bytes), { level: 0 });
    return (await readWorkbook(Buffer.from(whole.buffer, whole.byteOffset, whole.byteLength))).map(({ sheet, data }) => ({
      name: sheet,
      rows: data.map((row) => row.map(cellText)),
    }));
  } catch (error) {
    throw new FormatError(`${name}: is no ${kind.toUpperCase()} spreadsheet that can be read: ${(error as Error).message}`);
  }
}

function odsSheets(bytes: Uint8Array): Sheet[] {
  const { 'content.xml': content } = unzipSync(bytes, { filter: (f) => f.name === 'content.xml' });
  const document = new DOMParser({ onError: () => undefined }).parseFromString(strFromU8(content), 'text/xml');
  return Array.from(document.getElementsByTagName('table:table'), (table) => {
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
    return { name: table.getAttribute('table:name') ?? 'sheet', rows };
  });
}
