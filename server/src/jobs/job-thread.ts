import type { JobKind } from '@restless-shoal/core/contract';
import type { MessagePort } from 'node:worker_threads';
import { FormatError } from '@restless-shoal/core/formats';
import { openPool } from '../db/pool';
import { Uploads } from '../import/uploads';
import { ToldError } from '../told-error';
import { work, type JobData } from './work';

// A whole job in a thread of its own, with connections of its own: a million rows pass through here and never through
// the thread that answers requests.

export interface JobTask {
  kind: JobKind;
  data: JobData;
  /** Of the database. */
  url: string;
  /** Where files that were sent lie. */
  folder: string;
}

/** What came of a job; refused is what will not be read better the next time. */
export type JobOutcome = { result: unknown } | { refused: string };

/** Does a job. A message on the port stops it; its progress goes out there. */
export default async function job({ kind, data, url, folder, port }: JobTask & { port: MessagePort }): Promise<JobOutcome> {
  const stop = new AbortController();
  port.on('message', () => stop.abort());
  const pool = openPool(url, 4);
  try {
    const onProgress = (share: number, words?: string): void => port.postMessage({ share, words });
    return { result: await work[kind](data, { pool, uploads: new Uploads(folder) }, { signal: stop.signal, onProgress }) };
  } catch (error) {
    if (error instanceof FormatError || error instanceof ToldError) return { refused: error.message };
    throw error;
  } finally {
    port.close();
    await pool.end();
  }
}
