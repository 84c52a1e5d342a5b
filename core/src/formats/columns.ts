import { packParts, unpackParts } from './binary';

/** A row of plain values, as records have them. */
export type PlainRow = Record<string, string | number | boolean | null | undefined>;

/** How a column lies in the binary. */
type Column =
  /** Whole numbers after scaling, each as its step from the one before. */
  | { name: string; as: 'steps'; scale: number; holes: boolean }
  | { name: string; as: 'numbers'; holes: boolean }
  /** Texts (and whatever else JSON holds) by their place in a list; 0 is none. */
  | { name: string; as: 'words'; words: unknown[] }
  | { name: string; as: 'same'; of: string }
  | { name: string; as: 'none' };

type Part = Uint8Array | Int16Array | Int32Array | Float64Array;

const SCALES = [1, 10, 100, 1000, 1e4, 1e5, 1e6, 1e7];

/** The scale by which all numbers of a column become whole and come back as they were; 0 where none does. */
function scaleOf(values: Float64Array): number {
  return SCALES.find((s) => values.every((v) => Math.abs(v * s) < 2 ** 52 && Math.round(v * s) / s === v)) ?? 0;
}

/** Whole numbers in the narrowest array that holds them. */
function narrow(values: Float64Array): Part {
  let [low, high] = [0, 0];
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  if (low >= 0 && high < 256) return Uint8Array.from(values);
  if (low >= -32768 && high < 32768) return Int16Array.from(values);
  return low >= -(2 ** 31) && high < 2 ** 31 ? Int32Array.from(values) : values;
}

function packColumn(
  name: string,
  values: PlainRow[string][],
  before: Map<string, string>,
  per?: number,
): { column: Column; parts: Record<string, Part> } {
  if (values.every((v) => v == null)) return { column: { name, as: 'none' }, parts: {} };
  if (values.every((v) => v == null || (typeof v === 'number' && Number.isFinite(v)))) {
    const holes = values.some((v) => v == null);
    const there: Record<string, Part> = holes ? { [`${name}?`]: Uint8Array.from(values, (v) => Number(v != null)) } : {};
    let last = 0;
    const filled = Float64Array.from(values, (v) => (last = v == null ? last : Number(v)));
    const scale = per ?? scaleOf(filled);
    if (!scale) return { column: { name, as: 'numbers', holes }, parts: { ...there, [name]: filled } };
    let from = 0;
    const steps = filled.map((v) => {
      const whole = Math.round(v * scale);
      const step = whole - from;
      from = whole;
      return step;
    });
    return { column: { name, as: 'steps', scale, holes }, parts: { ...there, [name]: narrow(steps) } };
  }
  const text = JSON.stringify(values);
  const same = before.get(text);
  if (same !== undefined) return { column: { name, as: 'same', of: same }, parts: {} };
  before.set(text, name);
  const codes = new Map<unknown, number>();
  const coded = Float64Array.from(values, (v) => {
    if (v == null) return 0;
    let code = codes.get(v);
    if (code === undefined) codes.set(v, (code = codes.size + 1));
    return code;
  });
  return { column: { name, as: 'words', words: [...codes.keys()] }, parts: { [name]: narrow(coded) } };
}

/**
 * Tables of rows as one binary of columns: a small part of the same as JSON, and read without parsing a row. Numbers come
 * back as they went in, or rounded where that is asked for; what is not known is null.
 * @param tables the rows of each table, with the names of its columns, and how many steps a unit of some has
 */
export function packTables(
  tables: Record<string, { columns: readonly string[]; rows: readonly object[]; steps?: Readonly<Record<string, number>> }>,
): Uint8Array {
  const header: Record<string, { count: number; columns: Column[] }> = {};
  const parts: Record<string, Part> = {};
  for (const [table, { columns, rows, steps }] of Object.entries(tables)) {
    const before = new Map<string, string>();
    header[table] = { count: rows.length, columns: [] };
    for (const name of columns) {
      const packed = packColumn(
        name,
        rows.map((row) => (row as PlainRow)[name]),
        before,
        steps?.[name],
      );
      header[table].columns.push(packed.column);
      for (const [part, values] of Object.entries(packed.parts)) parts[`${table}.${part}`] = values;
    }
  }
  return packParts(header, parts);
}

/** The values of one column. */
function readColumn(column: Column, count: number, part: (name: string) => ArrayLike<number>, others: Map<string, unknown[]>): unknown[] {
  const out = new Array<unknown>(count);
  switch (column.as) {
    case 'none':
      return out.fill(null);
    case 'same':
      return others.get(column.of)!;
    case 'words': {
      const codes = part(column.name);
      for (let i = 0; i < count; i++) out[i] = codes[i] ? column.words[codes[i] - 1] : null;
      return out;
    }
    case 'numbers': {
      const values = part(column.name);
      for (let i = 0; i < count; i++) out[i] = values[i];
      break;
    }
    case 'steps': {
      const steps = part(column.name);
      let at = 0;
      for (let i = 0; i < count; i++) out[i] = (at += steps[i]) / column.scale;
    }
  }
  if (column.holes) {
    const there = part(`${column.name}?`);
    for (let i = 0; i < count; i++) if (!there[i]) out[i] = null;
  }
  return out;
}

/** Reads what `packTables` wrote, a row at a time. @throws RangeError when it is something else or cut short */
export function unpackTables(bytes: Uint8Array): Record<string, PlainRow[]> {
  const { header, parts } = unpackParts<Record<string, { count: number; columns: Column[] }>>(bytes);
  return Object.fromEntries(
    Object.entries(header).map(([table, { count, columns }]) => {
      const read = new Map<string, unknown[]>();
      for (const column of columns)
        read.set(
          column.name,
          readColumn(column, count, (name) => parts[`${table}.${name}`], read),
        );
      const names = [...read.keys()];
      const values = [...read.values()];
      // One shape for all rows of a table: the engine lays them out alike and reads them fast.
      const rows = new Array<PlainRow>(count);
      for (let i = 0; i < count; i++) {
        const row: PlainRow = {};
        for (let k = 0; k < names.length; k++) row[names[k]] = values[k][i] as PlainRow[string];
        rows[i] = row;
      }
      return [table, rows];
    }),
  );
}
