import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import type { Row } from '@restless-shoal/core/logbook';
import { quoted, type Client } from './pool';

/** Rows to bring into a table. */
export interface MergeInput {
  table: string;
  /** Columns that travel with each row. */
  columns: string[];
  /** Natural key. */
  key: string[];
  /**
   * Whether the key is a record's own (a column that names it): then one key is one record. Rows without one are a bag:
   * as many of the same natural key as there are are different records, told apart by their content.
   */
  keyed: boolean;
  /** Condition of the partial unique index the key belongs to, if it is one. */
  where?: string;
  /** Whether records of the table can lie in the trash. */
  trash: boolean;
  /** Change rows whose content differs, instead of leaving them as they are or adding beside them. */
  update: boolean;
}

/** Lines of a file: all are counted, the first hundred listed. */
export interface LineList {
  count: number;
  lines: number[];
}

export interface MergeResult {
  added: number;
  same: number;
  changed: number;
  /** Rows that lie in the trash, or belong to a trip that does: they stay there. */
  trashed: number;
  /** Lines whose key is known with other content. */
  different: LineList;
  /** Lines that were added although records of the same time and place stand already. */
  beside: LineList;
}

export const emptyMerge = (): MergeResult => ({
  added: 0,
  same: 0,
  changed: 0,
  trashed: 0,
  different: { count: 0, lines: [] },
  beside: { count: 0, lines: [] },
});

const LISTED = 100;
const listOf = (rows: { line: number }[]): LineList => ({ count: rows.length, lines: rows.slice(0, LISTED).map((r) => r.line) });

const sumOfLines = (a: LineList, b: LineList): LineList => ({
  count: a.count + b.count,
  lines: [...a.lines, ...b.lines].sort((p, q) => p - q).slice(0, LISTED),
});

/** What two parts of a file came to together. */
export const sumOfMerges = (a: MergeResult, b: MergeResult): MergeResult => ({
  added: a.added + b.added,
  same: a.same + b.same,
  changed: a.changed + b.changed,
  trashed: a.trashed + b.trashed,
  different: sumOfLines(a.different, b.different),
  beside: sumOfLines(a.beside, b.beside),
});

const NULL = '\\N';
/** What has a meaning of its own in the text that COPY reads. */
const SPECIAL = /[\\\t\n\r]/;
const copyText = (v: string | number | null | undefined): string =>
  v == null
    ? NULL
    : typeof v === 'number'
      ? String(v)
      : !SPECIAL.test(v)
        ? v
        : v.replace(/[\\\t\n\r]/g, (c) => ({ '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' })[c]!);

/** Opens a staging table for rows of a target table; `line` keeps their place in the file. */
export async function openStaging(client: Client, staging: string, { table, columns }: MergeInput): Promise<void> {
  await client.query(
    `CREATE TEMP TABLE ${staging} ON COMMIT DROP AS SELECT 0 AS line, ${columns.map(quoted).join(', ')} FROM ${table} WITH NO DATA`,
  );
}

/** Streams rows into a table by COPY. @param placed whether the table keeps the line of each row, as a staging table does */
export async function copyRows(
  client: Client,
  staging: string,
  columns: string[],
  rows: AsyncIterable<{ line: number; row: Row }[]>,
  placed = true,
): Promise<void> {
  async function* text(): AsyncGenerator<string> {
    for await (const batch of rows) {
      let out = '';
      for (const { line, row } of batch) {
        if (placed) out += `${line}\t`;
        for (let c = 0; c < columns.length; c++) out += copyText(row[columns[c]]) + (c + 1 < columns.length ? '\t' : '\n');
      }
      yield out;
    }
  }
  const list = [...(placed ? ['line'] : []), ...columns].map(quoted).join(', ');
  await pipeline(Readable.from(text()), client.query(copyFrom(`COPY ${staging} (${list}) FROM STDIN`)));
}

/** Columns that tell records apart beside their natural key: what was made here for them does not. */
const contentOf = ({ columns, key }: MergeInput): string[] => columns.filter((c) => !key.includes(c) && c !== 'id' && c !== 'survey_id');

const tuple = (of: string, columns: string[]): string => `(${columns.map((c) => `${of}.${quoted(c)}`).join(', ')})`;

/** Brings staged rows into their table. */
export const mergeStaged = (client: Client, staging: string, input: MergeInput): Promise<MergeResult> =>
  input.keyed ? mergeKeyed(client, staging, input) : mergeBag(client, staging, input);

/**
 * Rows that name themselves. Those whose key is there already are compared: the same content adds nothing, other
 * content is reported and left as it was, unless `update`; what lies in the trash stays there.
 */
async function mergeKeyed(client: Client, staging: string, input: MergeInput): Promise<MergeResult> {
  const { table, columns, key, where, trash, update } = input;
  const list = columns.map(quoted).join(', ');
  const keyList = key.map(quoted).join(', ');
  const content = contentOf(input);
  const result = emptyMerge();
  const matches = key.map((k) => `t.${quoted(k)} = s.${quoted(k)}`).join(' AND ') + (where ? ` AND t.${where}` : '');
  if (trash) {
    const gone = await client.query(`DELETE FROM ${staging} s USING ${table} t WHERE ${matches} AND t.deleted_at IS NOT NULL`);
    result.trashed = gone.rowCount ?? 0;
  }
  const total = Number((await client.query(`SELECT count(*) AS n FROM ${staging}`)).rows[0].n);
  const inserted = await client.query(
    `INSERT INTO ${table} (${list}) SELECT ${list} FROM ${staging} ORDER BY line ON CONFLICT (${keyList}) ${where ? `WHERE ${where}` : ''} DO NOTHING`,
  );
  result.added = inserted.rowCount ?? 0;
  if (result.added < total && content.length) {
    const differs = `${tuple('t', content)} IS DISTINCT FROM ${tuple('s', content)}`;
    const different = await client.query<{ line: number }>(
      `SELECT s.line FROM ${staging} s JOIN ${table} t ON ${matches} WHERE ${differs} ORDER BY s.line`,
    );
    if (update && different.rowCount) {
      await client.query(
        `UPDATE ${table} t SET ${content.map((c) => `${quoted(c)} = s.${quoted(c)}`).join(', ')} FROM (SELECT DISTINCT ON (${keyList}) * FROM ${staging} ORDER BY ${keyList}, line DESC) s WHERE ${matches} AND ${differs}`,
      );
      result.changed = different.rowCount;
    } else result.different = listOf(different.rows);
  }
  result.same = total - result.added - result.changed - result.different.count;
  return result;
}

/**
 * A bag of rows. A row is known when a record of equal content stands for it, one record for one row; any other is a
 * new record, listed when others of the same natural key stand already, or with `update` put in the place of those, in
 * order.
 */
async function mergeBag(client: Client, staging: string, input: MergeInput): Promise<MergeResult> {
  const { table, columns, key, where, trash, update } = input;
  const list = columns.map(quoted).join(', ');
  const content = contentOf(input);
  const all = [...key, ...content].map(quoted).join(', ');
  const keyList = key.map(quoted).join(', ');
  const sameKey = key.map((k) => `t.${quoted(k)} = s.${quoted(k)}`).join(' AND ');
  const trashed = trash ? 't.deleted_at IS NOT NULL' : 'false';
  // Records with a natural key that the file holds.
  const near = `SELECT t.ctid AS at, ${trashed} AS trashed, t.* FROM ${table} t WHERE ${where ? `t.${where} AND ` : ''}EXISTS (SELECT 1 FROM ${staging} s WHERE ${sameKey})`;
  const [pairs, rest] = [`${staging}_known`, `${staging}_new`];
  const result = emptyMerge();
  await client.query(
    `CREATE TEMP TABLE ${pairs} ON COMMIT DROP AS
     WITH s AS (SELECT *, row_number() OVER (PARTITION BY ${all} ORDER BY line) AS nth FROM ${staging}),
          t AS (SELECT *, row_number() OVER (PARTITION BY ${all} ORDER BY trashed, at) AS nth FROM (${near}) AS n)
     SELECT s.line, t.at, t.trashed FROM s JOIN t ON ${sameKey} AND t.nth = s.nth ${content.length ? `AND ${tuple('t', content)} IS NOT DISTINCT FROM ${tuple('s', content)}` : ''}`,
  );
  const { rows: counts } = await client.query<{ known: string; trashed: string }>(
    `SELECT count(*) FILTER (WHERE NOT trashed) AS known, count(*) FILTER (WHERE trashed) AS trashed FROM ${pairs}`,
  );
  result.same = Number(counts[0].known);
  result.trashed = Number(counts[0].trashed);
  await client.query(
    `CREATE TEMP TABLE ${rest} ON COMMIT DROP AS SELECT s.* FROM ${staging} s LEFT JOIN ${pairs} p ON p.line = s.line WHERE p.line IS NULL`,
  );
  // Records of the same natural key that no row of the file stands for.
  const others = `SELECT * FROM (${near}) AS n WHERE NOT trashed AND at NOT IN (SELECT at FROM ${pairs})`;
  if (update && content.length) {
    const changed = await client.query<{ line: number }>(
      `UPDATE ${table} t SET ${content.map((c) => `${quoted(c)} = s.${quoted(c)}`).join(', ')}
         FROM (SELECT *, row_number() OVER (PARTITION BY ${keyList} ORDER BY line) AS nth FROM ${rest}) s
         JOIN (SELECT *, row_number() OVER (PARTITION BY ${keyList} ORDER BY at) AS nth FROM (${others}) AS o) o
           ON ${key.map((k) => `o.${quoted(k)} = s.${quoted(k)}`).join(' AND ')} AND o.nth = s.nth
        WHERE t.ctid = o.at RETURNING s.line`,
    );
    result.changed = changed.rowCount ?? 0;
    if (result.changed) await client.query(`DELETE FROM ${rest} WHERE line = ANY($1)`, [changed.rows.map((r) => r.line)]);
  }
  const beside = await client.query<{ line: number }>(
    `SELECT s.line FROM ${rest} s WHERE EXISTS (SELECT 1 FROM ${table} t WHERE ${sameKey}${where ? ` AND t.${where}` : ''}${trash ? ' AND t.deleted_at IS NULL' : ''}) ORDER BY s.line`,
  );
  result.beside = listOf(beside.rows);
  const inserted = await client.query(`INSERT INTO ${table} (${list}) SELECT ${list} FROM ${rest} ORDER BY line`);
  result.added = inserted.rowCount ?? 0;
  return result;
}
