/** A file that cannot be read at all: nothing of it is used. The message is for people. */
export class FormatError extends Error {}

/** One row: its first line in the file (the header is line 1) and its fields as text. */
export interface CsvRow {
  line: number;
  fields: string[];
}

/** A row longer than this is no table, characters. */
const LONGEST_ROW = 1_000_000;

/** How a table is written, where it is not as our own. */
export interface TableForm {
  /** As `TextDecoder` names it. Without one it is UTF-8, or Windows-1252 from where it is not. */
  encoding?: string;
  /** What stands between fields: ' ' for any run of spaces or tabs. */
  separator?: string;
}

/**
 * Rows of a CSV file, read as the bytes come. Knows quotes, CRLF, a byte-order mark; the separator is
 * whichever of , ; and tab the first line holds most of. Empty lines are passed over.
 * (Written here because refusals must name the true line, also after quoted line breaks.)
 * @throws FormatError when a quote is never closed or a row is longer than a million characters
 */
export async function* csvRows(
  bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  file?: string,
  { encoding, separator = '' }: TableForm = {},
  onForeignLetters: (line: number) => void = () => undefined,
): AsyncGenerator<CsvRow[]> {
  const parser = new RowParser(file === undefined ? '' : `${file}: `, separator);
  const decoder = encoding === undefined ? new PlainText(() => onForeignLetters(parser.at)) : new TextDecoder(encoding);
  for await (const chunk of bytes) {
    const rows = parser.push(decoder.decode(chunk, { stream: true }));
    if (rows.length) yield rows;
  }
  const last = [...parser.push(decoder.decode()), ...parser.end()];
  if (last.length) yield last;
}

/** Reads UTF-8, and from the first place that is none Windows-1252, as older programs write. */
class PlainText {
  private decoder = new TextDecoder('utf-8', { fatal: true });
  /** Bytes of a letter that the last piece cut through. */
  private cut: Uint8Array = new Uint8Array(0);
  private foreign = false;
  constructor(private readonly onForeign: () => void) {}

  decode(chunk: Uint8Array = new Uint8Array(0), { stream = false } = {}): string {
    if (!this.foreign)
      try {
        const text = this.decoder.decode(chunk, { stream });
        this.cut = cutLetter(chunk.length > 3 ? chunk : joined(this.cut, chunk));
        return text;
      } catch {
        this.foreign = true;
        this.decoder = new TextDecoder('windows-1252');
        this.onForeign();
        return this.decoder.decode(joined(this.cut, chunk), { stream });
      }
    return this.decoder.decode(chunk, { stream });
  }
}

const joined = (a: Uint8Array, b: Uint8Array): Uint8Array => {
  const out = new Uint8Array(a.length + b.length);
  out.set(a);
  out.set(b, a.length);
  return out;
};

/** The bytes at an end that begin a letter and do not end it. */
function cutLetter(bytes: Uint8Array): Uint8Array {
  for (let k = 1; k <= Math.min(3, bytes.length); k++) {
    const byte = bytes[bytes.length - k];
    if (byte < 0x80) break;
    if (byte >= 0xc0) return (byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2) > k ? bytes.slice(bytes.length - k) : new Uint8Array(0);
  }
  return new Uint8Array(0);
}

class RowParser {
  private rest = '';
  private line = 1;
  /** @param file its name, as it begins a message */
  constructor(
    private readonly file: string,
    private separator = '',
  ) {}

  /** The line that is read next. */
  get at(): number {
    return this.line;
  }

  /** Old systems end a line with a bare CR: whether these do, once the first line has ended. */
  private bare: boolean | null = null;

  push(text: string): CsvRow[] {
    this.rest += this.bare ? text.replaceAll('\r', '\n') : text;
    if (this.bare === null) {
      // A CR at the very end may be half of a CRLF.
      const first = /\n|\r(?=[^\n])/.exec(this.rest);
      if (first) this.bare = first[0] === '\r';
      if (this.bare) this.rest = this.rest.replaceAll('\r', '\n');
    }
    const rows: CsvRow[] = [];
    let start = 0;
    let quote = this.rest.indexOf('"');
    for (;;) {
      let end = this.rest.indexOf('\n', start);
      if (end < 0) break;
      if (quote >= 0 && quote < start) quote = this.rest.indexOf('"', start);
      const quoted = quote >= 0 && quote < end;
      if (quoted) {
        end = endOfQuotedRow(this.rest, start);
        if (end < 0) break;
      }
      this.take(this.rest.slice(start, end), quoted, rows);
      start = end + 1;
    }
    this.rest = this.rest.slice(start);
    if (this.rest.length > LONGEST_ROW)
      throw new FormatError(`${this.file}line ${this.line}: a row of more than a million characters is no table`);
    return rows;
  }

  end(): CsvRow[] {
    const rows: CsvRow[] = [];
    if (this.rest) {
      if (quotesOpen(this.rest)) throw new FormatError(`${this.file}line ${this.line}: a quote is opened and never closed`);
      this.take(this.rest, this.rest.includes('"'), rows);
    }
    this.rest = '';
    return rows;
  }

  /** @param quoted whether there is a quote in it: only then can a line break be part of a field */
  private take(raw: string, quoted: boolean, rows: CsvRow[]): void {
    const line = this.line;
    if (quoted) for (let i = raw.indexOf('\n'); i >= 0; i = raw.indexOf('\n', i + 1)) this.line++;
    this.line++;
    const text = raw.endsWith('\r') ? raw.slice(0, -1) : raw;
    if (text.trim() === '') return;
    if (!this.separator) this.separator = guessSeparator(text);
    const { separator } = this;
    rows.push({
      line,
      fields: separator === ' ' ? text.trim().split(/\s+/) : quoted ? splitQuoted(text, separator) : text.split(separator),
    });
  }
}

/** Index of the line break that ends a row with quotes, −1 when it is not there yet. */
function endOfQuotedRow(text: string, start: number): number {
  let open = false;
  for (let i = start; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c === 34) open = !open;
    else if (c === 10 && !open) return i;
  }
  return -1;
}

const quotesOpen = (text: string): boolean => (text.split('"').length - 1) % 2 === 1;

function guessSeparator(header: string): string {
  const count = (s: string): number => header.split(s).length;
  return [',', ';', '\t'].reduce((best, s) => (count(s) > count(best) ? s : best), ',');
}

function splitQuoted(text: string, separator: string): string[] {
  const fields: string[] = [];
  let field = '';
  let open = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (open) {
      if (c !== '"') field += c;
      else if (text[i + 1] === '"') {
        field += '"';
        i++;
      } else open = false;
    } else if (c === '"' && field.trim() === '') {
      field = '';
      open = true;
    } else if (c === separator) {
      fields.push(field);
      field = '';
    } else field += c;
  }
  fields.push(field);
  return fields;
}

/** What a spreadsheet would take for a formula; a number with its sign is none. */
const FORMULA = /^(?![+-]?[\d.]+(e[+-]?\d+)?$)[=+\-@']/i;

/** A text as it stands in a table: one that a spreadsheet would work out as a formula gets a ' before it. */
export const guarded = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);
/** The text again, without the ' that `guarded` put before it. */
export const unguarded = (text: string): string => (/^\s*'[=+\-@']/.test(text) ? text.replace("'", '') : text);

/** One CSV line; fields with separators, quotes or line breaks are quoted. Null is empty. */
export function csvLine(values: (string | number | null | undefined)[]): string {
  return values.map((v) => (v == null ? '' : typeof v === 'number' ? String(v) : quotedWhereNeeded(guarded(v)))).join(',') + '\n';
}

const quotedWhereNeeded = (v: string): string => (/[",;\t\r\n]|^\s|\s$/.test(v) ? `"${v.replaceAll('"', '""')}"` : v);
