import type { TripDetail } from '../api/queries';
import type { Entry } from './outbox';

/** A trip as it will be once everything that waits has reached the server. */
export function applied(detail: TripDetail, trip: string, entries: Entry[]): TripDetail {
  let out = detail;
  for (const { method, path, body, refused } of entries) {
    const match = /^\/trips\/([^/]+)\/(contacts|stops)\/([^/]+)$/.exec(path);
    if (!match || match[1] !== trip || refused !== null) continue;
    const record = match[2] as 'contacts' | 'stops';
    const others = (out[record] as { id: string }[]).filter((r) => r.id !== match[3]);
    const rows = method === 'DELETE' ? others : [...others, { ...(body as object), id: match[3] }];
    out = { ...out, [record]: rows };
  }
  return out;
}
