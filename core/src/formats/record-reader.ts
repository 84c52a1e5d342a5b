import {
  rangeUnsaid,
  readField,
  records,
  Refused,
  rowContradiction,
  rowOddity,
  type Field,
  type Fields,
  type RecordName,
  type Row,
  type TrackFix,
} from '../logbook';
import { csvRows, FormatError, unguarded } from './csv';

/** Something about one place in a file. */
export interface Finding {
  line: number;
  column: string;
  reason: string;
}

/** What became of a file. `read` = `used` + `bad.count`. */
export interface FileReport {
  file: string;
  record: string;
  read: number;
  used: number;
  bad: FindingList;
  odd: FindingList;
  unknownColumns: string[];
  /** Fixes of a side-scan or a forward-facing view that do not say how far it reached: the usual range is taken. */
  rangeUnsaid: number;
}

/** All are counted, the first hundred are kept. */
export interface FindingList {
  count: number;
  first: Finding[];
}

export const emptyFindings = (): FindingList => ({ count: 0, first: [] });
export function addFinding(list: FindingList, finding: Finding): void {
  list.count++;
  if (list.first.length < 100) list.first.push(finding);
}

export const emptyReport = (file: string, record: string): FileReport => ({
  file,
  record,
  read: 0,
  used: 0,
  bad: emptyFindings(),
  odd: emptyFindings(),
  unknownColumns: [],
  rangeUnsaid: 0,
});

/** A row with its place in the file. */
export interface PlacedRow {
  line: number;
  row: Row;
}

interface Column {
  name: string;
  field: Field;
  at: number;
}

function readHeader(record: RecordName, header: string[], report: FileReport): Column[] {
  const fields = records[record] as Fields;
  const names = header.map((h) =>
    h
      .trim()
      .toLowerCase()
      .replace(/^\ufeff/, ''),
  );
  const columns: Column[] = [];
  names.forEach((name, at) => {
    if (name in fields) {
      if (columns.some((c) => c.name === name)) throw new FormatError(`${report.file}: line 1: the column ${name} stands twice`);
      columns.push({ name, field: fields[name], at });
    } else if (name !== '') report.unknownColumns.push(name);
  });
  if (!columns.length)
    throw new FormatError(`${report.file}: line 1: no column of ${record}.csv is known; expected ${Object.keys(fields).join(', ')}`);
  const missing = Object.keys(fields).filter((name) => fields[name].needed && !columns.some((c) => c.name === name));
  if (missing.length)
    throw new FormatError(
      `${report.file}: line 1: the needed column${missing.length > 1 ? 's' : ''} ${missing.join(', ')} ${missing.length > 1 ? 'are' : 'is'} missing`,
    );
  return columns;
}

/**
 * Reads a CSV file of one record in batches. Bad rows are left out and listed; odd ones are kept and listed.
 * @param report is filled as the file is read
 * @throws FormatError when the header or the file as a whole cannot be read
 */
export async function* readRecord(
  record: RecordName,
  bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  report: FileReport,
): AsyncGenerator<PlacedRow[]> {
  let columns: Column[] | null = null;
  let width = 0;
  let commaDecimals = false;
  let absent: string[] = [];
  const foreign = (line: number): void =>
    addFinding(report.odd, {
      line,
      column: '',
      reason: 'is not UTF-8: from here on it is read as Windows-1252; look at its names and notes',
    });
  for await (const batch of csvRows(bytes, report.file, {}, foreign)) {
    const rows: PlacedRow[] = [];
    for (const { line, fields } of batch) {
      if (!columns) {
        columns = readHeader(record, fields, report);
        width = fields.length;
        const present = columns.map((c) => c.name);
        absent = Object.keys(records[record]).filter((name) => !present.includes(name));
        commaDecimals = columns.length > 1 && !fields.join('').includes(',');
        continue;
      }
      report.read++;
      const row = readRow(record, columns, width, line, fields, report, commaDecimals, absent);
      if (row) rows.push({ line, row });
    }
    report.used += rows.length;
    if (rows.length) yield rows;
  }
  if (!columns) throw new FormatError(`${report.file}: is empty; the first line must name the columns`);
}

function readRow(
  record: RecordName,
  columns: Column[],
  width: number,
  line: number,
  fields: string[],
  report: FileReport,
  commaDecimals: boolean,
  absent: string[],
): Row | null {
  if (fields.length > width && fields.slice(width).some((f) => f.trim() !== '')) {
    addFinding(report.bad, { line, column: '', reason: `has ${fields.length} fields where the header has ${width}` });
    return null;
  }
  const row: Row = {};
  for (const { name, field, at } of columns) {
    const raw = fields[at] ?? '';
    const read = readField(
      field,
      field.type === 'text' ? unguarded(raw) : commaDecimals && field.type === 'number' ? raw.replace(',', '.') : raw,
    );
    if (read instanceof Refused) {
      addFinding(report.bad, { line, column: name, reason: read.reason });
      return null;
    }
    row[name] = read;
  }
  for (const name of absent) row[name] = null;
  const wrong = rowContradiction(record, row);
  if (wrong) {
    addFinding(report.bad, { line, ...wrong });
    return null;
  }
  if (record === 'track') {
    const { mode, view, port_range_m: port, starboard_range_m: starboard, sector_range_m: sectorRange } = row as unknown as TrackFix;
    if (rangeUnsaid({ mode, view, port, starboard, sectorRange })) report.rangeUnsaid++;
  }
  const odd = rowOddity(record, row);
  if (odd) addFinding(report.odd, { line, ...odd });
  return row;
}
