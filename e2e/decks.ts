import 'fake-indexeddb/auto';
import { newId } from '@restless-shoal/core/logbook';
import { deckNow } from '../web/src/api/clock';
import { Fault, Outbox, Refusal } from '../web/src/offline/outbox';

/** A deck without a screen: the application's own outbox on a device of its own, logging on a trip of its own. */
export class SimulatedDeck {
  readonly outbox: Outbox;
  readonly trip = newId();
  /** Ids of the marks, in the order they were made. */
  readonly marks: string[] = [];
  /** Paths that the server said it has. */
  readonly taken = new Set<string>();

  /**
   * @param server where the server is now: it may die and come back elsewhere
   * @param saw is told of each answer
   */
  constructor(
    readonly number: number,
    private readonly water: string,
    server: () => string,
    saw: (status: number, text: string) => void = () => undefined,
  ) {
    this.outbox = new Outbox({
      name: `deck ${number} ${newId()}`,
      send: async ({ method, path, body }, signal) => {
        const response = await fetch(`${server()}/api${path}`, {
          method,
          signal,
          headers: { 'Content-Type': 'application/json' },
          body: method === 'DELETE' ? undefined : JSON.stringify(body),
        });
        const epoch = response.headers.get('X-Epoch');
        if (epoch) await this.outbox.sawEpoch(epoch);
        const text = await response.text();
        saw(response.status, text);
        if (response.status >= 400 && response.status < 500) throw new Refusal(text);
        if (response.status === 500) throw new Fault(text);
        if (!response.ok) throw new Error(text);
        this.taken.add(path);
      },
    });
  }

  async start(): Promise<void> {
    await this.outbox.load();
    await this.outbox.put('PUT', `/waters/${this.water}/trips/${this.trip}`, {
      trip: `deck ${this.number} ${this.trip}`,
      start: new Date().toISOString(),
      end: null,
      purpose: 'practice',
      goal: 'action',
    });
  }

  /** Logs a mark: done once it is safe on the device. */
  async mark(): Promise<void> {
    const now = deckNow();
    const id = newId(now);
    this.marks.push(id);
    await this.outbox.put('PUT', `/trips/${this.trip}/contacts/${id}`, {
      contact: id,
      time: new Date(now).toISOString(),
      latitude: 48.2 + this.number * 1e-4,
      longitude: -34.6 + this.marks.length * 1e-5,
      kind: 'fish',
      view: 'side-scan',
      top_m: 4,
      bottom_m: 5,
    });
  }

  /** Sends until nothing waits. @throws when it does not come to that in time */
  async sendAll(patience = 120_000): Promise<void> {
    const end = Date.now() + patience;
    while (this.outbox.snapshot().waiting.length) {
      if (Date.now() > end) throw new Error(`deck ${this.number}: ${this.outbox.snapshot().waiting.length} still wait`);
      await this.outbox.flush();
      if (this.outbox.snapshot().waiting.length) await new Promise((done) => setTimeout(done, 100));
    }
  }

  /** What the server holds of this deck: the ids, in the order in which the server tells them. */
  async held(server: string): Promise<string[]> {
    const response = await fetch(`${server}/api/trips/${this.trip}`);
    if (!response.ok) return [];
    return ((await response.json()) as { contacts: { id: string }[] }).contacts.map((c) => c.id);
  }
}
