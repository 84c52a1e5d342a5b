import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import type { Row } from '@restless-shoal/core/logbook';
import { quoted, type Client } from './pool';

/** Rows to bring into a table by their natural key. */
export interface MergeInput {
  table: string;
  /** Columns that travel with each row. */
  columns: string[];
  /** Natural key. */
  key: string[];
  /** Condition of the partial unique index the key belongs to, if it is one. */
  where?: string;
  /** Change rows whose content differs, instead of leaving them as they are. */
  update: boolean;
}

export interface MergeResult {
  added: number;
  same: number;
  changed: number;
  /** Lines whose key is known with other content; all are counted, the first hundred listed. */
  different: { count: number; lines: number[] };
}

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

/**
 * Brings staged rows into their table. Rows whose key is there already are compared: the same content adds nothing,
 * other content is reported and left as it was, unless `update`.
 */
export async function mergeStaged(
  client: Client,
  staging: string,
  { table, columns, key, where, update }: MergeInput,
): Promise<MergeResult> {
  const list = columns.map(quoted).join(', ');
  const keyList = key.map(quoted).join(', ');
  const content = columns.filter((c) => !key.includes(c) && c !== 'id' && c !== 'survey_id');
  const total = Number((await client.query(`SELECT count(*) AS n FROM ${staging}`)).rows[0].n);
  const inserted = await client.query(
    `INSERT INTO ${table} (${list}) SELECT ${list} FROM ${staging} ORDER BY line ON CONFLICT (${keyList}) ${where ? `WHERE ${where}` : ''} DO NOTHING`,
  );
  const added = inserted.rowCount ?? 0;
  const result: MergeResult = { added, same: 0, changed: 0, different: { count: 0, lines: [] } };
  if (added < total && content.length) {
    const matches = key.map((k) => `t.${quoted(k)} = s.${quoted(k)}`).join(' AND ') + (where ? ` AND t.${where}` : '');
    const differs = `(${content.map((c) => `t.${quoted(c)}`).join(', ')}) IS DISTINCT FROM (${content.map((c) => `s.${quoted(c)}`).join(', ')})`;
    const different = await client.query<{ line: number }>(
      `SELECT s.line FROM ${staging} s JOIN ${table} t ON ${matches} WHERE ${differs} ORDER BY s.line`,
    );
    if (update && different.rowCount) {
      await client.query(
        `UPDATE ${table} t SET ${content.map((c) => `${quoted(c)} = s.${quoted(c)}`).join(', ')} FROM (SELECT DISTINCT ON (${keyList}) * FROM ${staging} ORDER BY ${keyList}, line DESC) s WHERE ${matches} AND ${differs}`,
      );
      result.changed = different.rowCount;
    } else result.different = { count: different.rowCount ?? 0, lines: different.rows.slice(0, 100).map((r) => r.line) };
  }
  result.same = total - added - result.changed - result.different.count;
  return result;
}
