import { to as copyTo } from 'pg-copy-streams';
import type { Client } from './pool';

/**
 * Streams what a query gives by COPY. Who stops reading before its end has to give the connection up: it is still busy.
 * @param how as COPY wants it, in brackets
 */
export function copyOut(client: Client, query: string, how: string): AsyncIterable<Buffer> {
  const stream = client.query(copyTo(`COPY (${query}) TO STDOUT ${how}`));
  // A connection that breaks before anybody reads is remembered: who reads later would wait for it for ever.
  stream.on('error', (error) => stream.destroy(error));
  return stream as AsyncIterable<Buffer>;
}
