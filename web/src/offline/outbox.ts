import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { useSyncExternalStore } from 'react';
import { ApiError, sendJson } from '../api/client';

/** A write that has to reach the server: kept on the device first, sent in order, once. */
export interface Entry {
  /** Order on this device, whatever its clock says. */
  seq: number;
  method: 'PUT' | 'POST' | 'DELETE';
  path: string;
  body: unknown;
  /** Why the server refused it; it is kept and shown, and holds up nothing behind it. */
  refused: string | null;
}

interface Store extends DBSchema {
  entries: { key: number; value: Omit<Entry, 'seq'> & { seq?: number } };
}

/** How often what waits is tried again, ms. */
const AGAIN = 3000;

let database: Promise<IDBPDatabase<Store>> | null = null;
const open = (): Promise<IDBPDatabase<Store>> =>
  (database ??= openDB<Store>('restless-shoal-outbox', 1, {
    upgrade: (db) => void db.createObjectStore('entries', { keyPath: 'seq', autoIncrement: true }),
  }));

const channel = new BroadcastChannel('restless-shoal-outbox');
const listeners = new Set<() => void>();
const sentListeners = new Set<(entry: Entry) => void>();
/** What waits, and whether the last try did not get through. */
interface Outbox {
  entries: Entry[];
  stuck: boolean;
}
let state: Outbox = { entries: [], stuck: false };

function show(change: Partial<Outbox>): void {
  state = { ...state, ...change };
  listeners.forEach((listener) => listener());
}

async function reload(): Promise<void> {
  show({ entries: (await (await open()).getAll('entries')) as Entry[] });
}

/**
 * Keeps a write on the device and sends it as soon as there is a server.
 * @returns once it is safe on the device
 * @throws when the device cannot keep it (its storage is full)
 */
export async function put(method: Entry['method'], path: string, body: unknown = null): Promise<void> {
  const entry = { method, path, body, refused: null };
  try {
    const seq = await (await open()).add('entries', entry);
    show({ entries: [...state.entries, { ...entry, seq }] });
  } catch (error) {
    const full = (error as Error).name === 'QuotaExceededError';
    throw new Error(`this device cannot keep it: ${full ? 'its storage is full' : (error as Error).message}`, { cause: error });
  }
  channel.postMessage({ sent: null });
  void flush();
}

/** Takes a refused write off the device, once somebody has seen it. */
export async function drop(seq: number): Promise<void> {
  await (await open()).delete('entries', seq);
  show({ entries: state.entries.filter((e) => e.seq !== seq) });
  channel.postMessage({ sent: null });
}

/** Sends what waits, oldest first, one tab at a time. Stops at the first that does not get through. */
export function flush(): Promise<void> {
  // Without a secure context there are no locks; what is sent twice is still one record.
  if (!('locks' in navigator)) return sendAll();
  return navigator.locks.request('restless-shoal-outbox', { ifAvailable: true }, (lock) => (lock ? sendAll() : undefined));
}

async function sendAll(): Promise<void> {
  const db = await open();
  for (;;) {
    const next = ((await db.getAll('entries')) as Entry[]).find((e) => e.refused === null);
    if (!next) return;
    let sent: Entry | null = null;
    try {
      await sendJson(next.method, next.path, next.method === 'DELETE' ? undefined : next.body);
      // Told before it goes from the list, so that what it wrote never seems to be gone.
      tellSent(next);
      sent = next;
      await db.delete('entries', next.seq);
    } catch (error) {
      if (!(error instanceof ApiError) || error.status === 0 || error.status >= 500) {
        show({ stuck: true });
        return;
      }
      await db.put('entries', { ...next, refused: error.message });
    }
    show({ stuck: false });
    await reload();
    channel.postMessage({ sent });
  }
}

const tellSent = (entry: Entry): void => sentListeners.forEach((listener) => listener(entry));

/** Everything that has not reached the server, in order. */
export const useOutbox = (): Outbox =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => state,
  );

/** Is told of each write that has reached the server. */
export function onSent(listener: (entry: Entry) => void): () => void {
  sentListeners.add(listener);
  return () => sentListeners.delete(listener);
}

// Another tab has kept or sent something.
channel.onmessage = ({ data }: MessageEvent<{ sent: Entry | null }>) => {
  if (data.sent) tellSent(data.sent);
  void reload();
};
addEventListener('online', () => void flush());
setInterval(() => {
  if (state.entries.some((e) => e.refused === null)) void flush();
}, AGAIN);
void reload().then(flush, () => undefined);
