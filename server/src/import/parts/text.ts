import { csvRows, type TableForm } from '@restless-shoal/core/formats';
import { firstRowNames } from '@restless-shoal/core/tables';
import type { Source } from '../sources';
import { SAMPLE, type FilePart, type PartRow } from './part';

/** So much of a text is looked at to tell how it is written, bytes. */
const LOOKED_AT = 1 << 16;

async function head(source: Source): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const chunk of source.bytes()) {
    parts.push(chunk);
    length += chunk.length;
    if (length >= LOOKED_AT) break;
  }
  return Buffer.concat(parts).subarray(0, LOOKED_AT);
}

/** How a text is encoded, by its mark, its zero bytes, or whether it is UTF-8 at all. */
function encodingOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const zeros = [0, 0];
  bytes.forEach((b, i) => b === 0 && zeros[i % 2]++);
  if (zeros[1] > bytes.length / 4) return 'utf-16le';
  if (zeros[0] > bytes.length / 4) return 'utf-16be';
  try {
    // What the piece cuts through at its end is no fault of its own.
    new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(0, Math.max(0, bytes.length - 4)), { stream: true });
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** What stands between the fields: the separator that cuts the first lines into the same number of fields. */
function separatorOf(lines: string[]): string {
  const even = (s: string): number => {
    const counts = lines.map((line) => (s === ' ' ? line.trim().split(/\s+/).length : line.split(s).length));
    const n = counts[Math.floor(counts.length / 2)];
    return n > 1 && counts.filter((c) => c === n).length >= 0.8 * counts.length ? n : 0;
  };
  for (const s of ['\t', ';', ',']) if (even(s)) return s;
  return even(' ') ? ' ' : ',';
}

const COMMENT = /^\s*(#|\/\/|%|"?Not for navigation)/i;

/** A text table as people and programs write it: any encoding, any separator, with or without names of columns. */
export async function textPart(source: Source): Promise<FilePart | null> {
  const bytes = await head(source);
  const encoding = encodingOf(bytes);
  const text = new TextDecoder(encoding).decode(bytes);
  // The last line may be cut.
  const all = text.split(/\r\n|\n|\r/);
  const lines = (bytes.length < LOOKED_AT ? all : all.slice(0, -1)).filter((l) => l.trim() !== '' && !COMMENT.test(l));
  if (!lines.length) return null;
  const separator = separatorOf(lines.slice(1, 60).length ? lines.slice(1, 60) : lines);
  const form: TableForm = { encoding, separator };
  // A line of comment above the table names its system, perhaps.
  const said = /EPSG[:\s]*(\d{4,5})/i.exec(text.slice(0, 4000));
  const utm = /UTM\s*(?:zone)?\s*(\d{1,2})\s*([NS])?/i.exec(`${source.name} ${text.slice(0, 2000)}`);
  const named = said ?? /EPSG[:_\s-]*(\d{4,5})/i.exec(source.name);
  const crs = named ? Number(named[1]) : utm && Number(utm[1]) >= 1 && Number(utm[1]) <= 60 ? (utm[2]?.toUpperCase() === 'S' ? 32700 : 32600) + Number(utm[1]) : null; // prettier-ignore
  const read = async function* (): AsyncGenerator<PartRow[]> {
    for await (const batch of csvRows(source.bytes(), source.name, form)) {
      const rows = batch.filter((r) => !COMMENT.test(r.fields[0]));
      if (rows.length) yield rows;
    }
  };
  const first: string[][] = [];
  for await (const batch of read()) {
    first.push(...batch.map((r) => r.fields));
    if (first.length > SAMPLE) break;
  }
  // A table has columns, and a number or a date in most of its rows: free words have neither.
  const digits = first.filter((r) => r.some((f) => /\d/.test(f))).length >= first.length / 2;
  if (!first.length || Math.max(...first.map((r) => r.length)) < 2 || !digits) return null;
  const header = firstRowNames(first);
  const names = header ? uniqueNames(first[0]) : null;
  return {
    file: source.name,
    part: 'table',
    columns: names,
    sample: first.slice(header ? 1 : 0, SAMPLE),
    crs,
    day: source.day ?? null,
    rows: async function* () {
      let skip = header;
      for await (const batch of read()) {
        const rows = skip ? batch.slice(1) : batch;
        skip = false;
        if (rows.length) yield rows;
      }
    },
  };
}

/** Names of columns, each once: what stands twice, or nowhere, gets its number. */
export function uniqueNames(names: string[]): string[] {
  const seen = new Set<string>();
  return names.map((raw, k) => {
    const name = raw.replace(/^\ufeff/, '').trim() || `column ${k + 1}`;
    const own = seen.has(name) ? `${name} (${k + 1})` : name;
    seen.add(own);
    return own;
  });
}
