import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { app as msg } from '../words';
import { told } from '../parts/told';

/** A write that has to reach the server: kept on the device first, sent in order, once. */
export interface Entry {
  /** Order on this device, whatever its clock says. */
  seq: number;
  method: 'PUT' | 'POST' | 'DELETE';
  path: string;
  /** JSON, or the bytes of a picture. */
  body: unknown;
  /** Why the server refused it; it is kept and shown, and holds up nothing behind it. */
  refused: string | null;
  /** The same by the server's code, where it gave one. */
  refusedAs?: string | null;
  /** When the server took it, ms; null while it waits. What was taken stays for a while, should the server lose it. */
  sentAt: number | null;
}

/** What is kept, and whether the last try did not get through. */
export interface OutboxState {
  /** What has not reached the server, in order, with what it refused. */
  waiting: Entry[];
  /** What it took lately, in order. */
  sent: Entry[];
  stuck: boolean;
}

type Stored = Omit<Entry, 'seq'> & { seq?: number; /** 1 to be sent, 2 refused; absent once it was sent. */ waiting?: 1 | 2 };
interface Store extends DBSchema {
  entries: { key: number; value: Stored; indexes: { waiting: number; sentAt: number } };
  meta: { key: string; value: string };
}

const DAY = 86_400_000;
/** How long what was sent is kept on the device, ms: as long as somebody may need to go back to a backup. Tracks and pictures are large, and for less. */
const KEPT_MS = 30 * DAY;
const LARGE_KEPT_MS = 7 * DAY;
/** How far back what was sent may still be missing from an answer that is shown, ms. */
const SHOWN_MS = DAY;

const inOrder = (a: Entry, b: Entry): number => a.seq - b.seq;
const isLarge = ({ path }: { path: string }): boolean => /\/(track|picture)$/.test(path);

/** What the server said to a write that it will never take as it is. */
export class Refusal extends Error {
  constructor(
    words: string,
    /** The server's code for it. */
    readonly code: string | null = null,
    options?: ErrorOptions,
  ) {
    super(words, options);
  }
}
/** The server failed over a write, as it may do again each time. */
export class Fault extends Error {}

/** After so many faults over one write those behind it are tried. */
const FAULTS = 3;

/** An answer that has not come after this time was lost on the way: the write is sent again, which changes nothing. */
const PATIENCE = 30_000;
/** What a picture needs more, ms a byte: as slow as it may be on the water. */
const SLOWEST = 1 / 10;
const patienceFor = ({ body }: Pick<Entry, 'body'>): number => PATIENCE + (body instanceof Blob ? body.size * SLOWEST : 0);

export interface OutboxOptions {
  name: string;
  /** Sends one write, giving up when told to. @throws Refusal when the server answered and will not take it, Fault when it failed over it; anything else is tried again */
  send: (entry: Entry, signal: AbortSignal) => Promise<void>;
  /** Runs work while no other tab does; undefined when another is at it. */
  alone?: (work: () => Promise<void>) => Promise<void>;
  /** Tells other tabs that what is kept has changed. */
  tell?: () => void;
}

/**
 * Writes on their way to the server. Each is safe on the device before `put` returns, is sent in the order it was
 * made, and is kept after it was sent: a server that was set back to a backup shows another epoch, and gets what the
 * device still holds once more. Each write has its identity, so that sending it twice changes nothing.
 */
export class Outbox {
  private readonly faults = new Map<number, number>();
  private state: OutboxState = { waiting: [], sent: [], stuck: false };
  private readonly listeners = new Set<() => void>();
  private readonly sentListeners = new Set<(entry: Entry) => void>();
  private readonly database: Promise<IDBPDatabase<Store>>;
  private epoch: string | null = null;
  private running: Promise<void> | null = null;

  constructor(private readonly options: OutboxOptions) {
    this.database = openDB<Store>(options.name, 2, {
      async upgrade(db, from, _to, transaction) {
        const entries =
          from < 1 ? db.createObjectStore('entries', { keyPath: 'seq', autoIncrement: true }) : transaction.objectStore('entries');
        entries.createIndex('waiting', 'waiting');
        entries.createIndex('sentAt', 'sentAt');
        db.createObjectStore('meta');
        for (let cursor = await entries.openCursor(); cursor; cursor = await cursor.continue())
          await cursor.update({ ...cursor.value, sentAt: null, waiting: cursor.value.refused === null ? 1 : 2 });
      },
    });
  }

  /** Reads what an earlier page left, and drops what was sent long ago. */
  async load(): Promise<void> {
    const db = await this.database;
    this.epoch = (await db.get('meta', 'epoch')) ?? null;
    const transaction = db.transaction('entries', 'readwrite');
    const now = Date.now();
    // Oldest first.
    for (
      let cursor = await transaction.store.index('sentAt').openCursor();
      cursor && (cursor.value.sentAt ?? now) < now - LARGE_KEPT_MS;
      cursor = await cursor.continue()
    )
      if (isLarge(cursor.value) || (cursor.value.sentAt ?? now) < now - KEPT_MS) await cursor.delete();
    await transaction.done;
    await this.reload();
  }

  /** Reads again what is kept: another tab has changed it. */
  async reload(): Promise<void> {
    const { store } = (await this.database).transaction('entries');
    const before = this.state;
    const waiting = (await store.index('waiting').getAll()) as Entry[];
    const sent: Entry[] = [];
    // Newest first, and no farther back than anything shown can be missing.
    for (
      let cursor = await store.index('sentAt').openCursor(null, 'prev');
      cursor && (cursor.value.sentAt ?? 0) >= Date.now() - SHOWN_MS;
      cursor = await cursor.continue()
    )
      if (!isLarge(cursor.value)) sent.push(cursor.value as Entry);
    // Something was kept or sent here meanwhile: what was read is older than what is shown.
    if (this.state !== before) return this.reload();
    this.show({ waiting: waiting.sort(inOrder), sent: sent.sort(inOrder) });
  }

  snapshot = (): OutboxState => this.state;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Is told of each write that has reached the server from this tab. */
  onSent = (listener: (entry: Entry) => void): (() => void) => {
    this.sentListeners.add(listener);
    return () => this.sentListeners.delete(listener);
  };

  /**
   * Keeps a write on the device and sends it as soon as there is a server.
   * @returns once it is safe on the device
   * @throws when the device cannot keep it (its storage is full)
   */
  async put(method: Entry['method'], path: string, body: unknown = null): Promise<void> {
    const entry = { method, path, body, refused: null, sentAt: null };
    try {
      // Strict: on the disk, not only handed to the system, before it counts as safe.
      const transaction = (await this.database).transaction('entries', 'readwrite', { durability: 'strict' });
      const seq = await transaction.store.add({ ...entry, waiting: 1 });
      await transaction.done;
      this.show({ waiting: [...this.state.waiting, { ...entry, seq }] });
    } catch (error) {
      const full = (error as Error).name === 'QuotaExceededError';
      throw new Error(msg('outbox.thisDeviceCannotKeep', { full: full ? msg('outbox.itsStorageIsFull') : told(error) }), {
        cause: error,
      });
    }
    this.options.tell?.();
    void this.flush();
  }

  /** Takes a refused write off the device, once somebody has seen it. */
  async drop(seq: number): Promise<void> {
    await (await this.database).delete('entries', seq);
    this.show({ waiting: this.state.waiting.filter((e) => e.seq !== seq) });
    this.options.tell?.();
  }

  /** Sends what waits, oldest first, one tab at a time. Stops at the first that does not get through. */
  flush(): Promise<void> {
    const alone = this.options.alone ?? ((work: () => Promise<void>) => work());
    this.running ??= alone(() => this.sendAll()).finally(() => {
      this.running = null;
    });
    return this.running;
  }

  /**
   * Notes which server answers. One that was set back to a backup, or replaced by it, has another epoch: what it took
   * before is offered again, in order.
   */
  async sawEpoch(epoch: string): Promise<void> {
    if (epoch === this.epoch) return;
    const db = await this.database;
    const transaction = db.transaction(['entries', 'meta'], 'readwrite');
    const known = await transaction.objectStore('meta').get('epoch');
    if (known !== undefined && known !== epoch) {
      const entries = transaction.objectStore('entries');
      for (let cursor = await entries.openCursor(); cursor; cursor = await cursor.continue())
        if (cursor.value.sentAt !== null) await cursor.update({ ...cursor.value, sentAt: null, waiting: 1 });
    }
    await transaction.objectStore('meta').put(epoch, 'epoch');
    await transaction.done;
    this.epoch = epoch;
    if (known === undefined || known === epoch) return;
    await this.reload();
    this.options.tell?.();
    if (!this.running) void this.flush();
  }

  /** Takes everything off the device. */
  async forget(): Promise<void> {
    const db = await this.database;
    await Promise.all([db.clear('entries'), db.clear('meta')]);
    this.epoch = null;
    this.show({ waiting: [], sent: [], stuck: false });
    this.options.tell?.();
  }

  /** Sends once more what was set aside. */
  async sendAgain(seq: number): Promise<void> {
    const db = await this.database;
    const kept = await db.get('entries', seq);
    if (kept) await db.put('entries', { ...kept, refused: null, refusedAs: null, waiting: 1 });
    this.faults.delete(seq);
    await this.reload();
    this.options.tell?.();
    void this.flush();
  }

  private async setAside(entry: Entry, why: string, code: string | null = null): Promise<void> {
    const refused = { ...entry, refused: why, refusedAs: code };
    await (await this.database).put('entries', { ...refused, waiting: 2 });
    this.show({ waiting: this.state.waiting.map((e) => (e.seq === entry.seq ? refused : e)) });
    this.options.tell?.();
  }

  private async sendAll(): Promise<void> {
    const db = await this.database;
    // Writes that the server fails over: they wait while those behind them are tried.
    const passed = new Map<number, Entry>();
    for (;;) {
      // Refused ones stand behind those to be sent.
      let cursor = await db.transaction('entries').store.index('waiting').openCursor(1);
      while (cursor && passed.has(cursor.primaryKey)) cursor = await cursor.continue();
      if (!cursor) {
        if (passed.size) this.show({ stuck: true });
        return;
      }
      const next = cursor.value as Stored & { seq: number };
      const { waiting: _, ...entry } = next;
      const epoch = this.epoch;
      try {
        await this.options.send(entry as Entry, AbortSignal.timeout(patienceFor(entry)));
      } catch (error) {
        const faults = (this.faults.get(next.seq) ?? 0) + 1;
        if (error instanceof Fault) this.faults.set(next.seq, faults);
        // What is refused behind a write that was passed over may only be missing that one.
        if ((error instanceof Fault && faults >= FAULTS) || (error instanceof Refusal && passed.size > 0)) {
          passed.set(next.seq, entry as Entry);
          continue;
        }
        if (!(error instanceof Refusal)) {
          this.show({ stuck: true });
          return;
        }
        // Another server than the one it was meant for: first comes what that one does not know.
        if (epoch !== null && this.epoch !== epoch) continue;
        this.show({ stuck: false });
        await this.setAside(entry as Entry, error.message, error.code);
        continue;
      }
      // Taken by a server that has just turned out to be another: it comes again in its turn.
      if (epoch !== null && this.epoch !== epoch) continue;
      const sent = { ...(entry as Entry), sentAt: Date.now() };
      await db.put('entries', sent);
      this.show({
        stuck: false,
        waiting: this.state.waiting.filter((e) => e.seq !== next.seq),
        sent: isLarge(sent) ? this.state.sent : [...this.state.sent, sent],
      });
      this.sentListeners.forEach((listener) => listener(sent));
      // The server works: it is these that it cannot take.
      for (const left of passed.values()) await this.setAside(left, msg('outbox.theServerFailedOver'));
      passed.clear();
      this.options.tell?.();
    }
  }

  private show(change: Partial<OutboxState>): void {
    this.state = { ...this.state, ...change };
    this.listeners.forEach((listener) => listener());
  }
}
