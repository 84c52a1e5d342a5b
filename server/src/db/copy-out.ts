import { to as copyTo } from 'pg-copy-streams';
import type { Client } from './pool';

/**
 * Streams what a query gives by COPY. Who stops reading before its end has to give the connection up: it is still busy.
 * @param how as COPY wants it, in brackets
 */
export function copyOut(client: Client, query: string, how: string): AsyncIterable<Buffer> {
  const stream = client.query(copyTo(`COPY (${query}) TO STDOUT ${how}`));
  // When the connection is given up while nobody reads, the stream fails with nobody to hear it.
  stream.on('error', () => undefined);
  return stream as AsyncIterable<Buffer>;
}
