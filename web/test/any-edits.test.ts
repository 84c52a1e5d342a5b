import { expect } from 'chai';
import fc from 'fast-check';
import type { TripDetail, TripRow, WaterLog } from '../src/api/queries';
import { appliedLog, appliedTrip, ofLog, since } from '../src/offline/apply';
import type { Entry } from '../src/offline/outbox';

const WATER = 'w';
const RECORDS = ['contacts', 'stops', 'responses'] as const;
type Row = Record<string, unknown> & { id: string };

/** What a server makes of writes, one after the other: told apart from how the device applies them. */
class Server {
  readonly trips = new Map<string, TripRow & { gone: boolean }>();
  readonly records = new Map<string, { trip: string; of: string; row: Row; gone: boolean }>();
  readonly readings: { trip: string; time: string; surface: unknown }[] = [];

  take({ method, path, body }: Entry): void {
    const parts = path.split('?')[0].split('/').slice(1);
    if (parts[0] === 'waters') {
      const had = this.trips.get(parts[3]);
      if (method === 'DELETE') {
        if (had) had.gone = true;
      } else this.trips.set(parts[3], { ...(body as Omit<TripRow, 'id'>), id: parts[3], gone: had?.gone ?? false });
      return;
    }
    const [, trip, of, id] = parts;
    const running = this.trips.get(trip);
    if (!running || running.gone) return;
    if (of === 'conditions') {
      const { time, surface_temperature_c: surface } = body as { time: string; surface_temperature_c: unknown };
      if (!this.readings.some((r) => r.trip === trip && r.time === time)) this.readings.push({ trip, time, surface });
      return;
    }
    const had = this.records.get(id);
    if (method === 'DELETE') {
      if (had) had.gone = true;
    } else this.records.set(id, { trip, of, row: { ...(body as object), id }, gone: had?.gone ?? false });
  }

  log(): WaterLog {
    const trips = [...this.trips.values()].filter((t) => !t.gone).map(({ gone: _, ...trip }) => trip);
    const readings = this.readings
      .filter((r) => !this.trips.get(r.trip)!.gone)
      .map((r) => ({ trip: this.trips.get(r.trip)!.trip, time: r.time, surface_temperature_c: r.surface }));
    return { asOf: 0, trips, readings, profiles: [] } as unknown as WaterLog;
  }

  trip(id: string): TripDetail {
    const of = (name: string): Row[] =>
      [...this.records.values()].filter((r) => r.trip === id && r.of === name && !r.gone).map((r) => r.row);
    return {
      asOf: 0,
      trip: this.trips.get(id)!,
      track: [],
      contacts: of('contacts'),
      stops: of('stops'),
      responses: of('responses'),
      photos: [],
    } as unknown as TripDetail;
  }
}

/** What a hand does on the Deck; which trip or record it is about, of those that are there, is a share of their number. */
const touch = fc.record({
  does: fc.constantFrom('begin', 'end', 'throw away', 'mark', 'mark', 'mark', 'edit', 'edit', 'take back', 'read'),
  which: fc.double({ min: 0, max: 0.999, noNaN: true }),
  record: fc.constantFrom(...RECORDS),
  value: fc.integer({ min: 1, max: 9 }),
  twice: fc.boolean(),
});
type Touch = typeof touch extends fc.Arbitrary<infer T> ? T : never;

/** The writes that touches make, in order, as the Deck would. */
function writesOf(touches: Touch[]): Entry[] {
  const out: Entry[] = [];
  let trip: { id: string; body: Omit<TripRow, 'id'> } | null = null;
  let kept: { path: string; body: Record<string, unknown> }[] = [];
  const write = (method: Entry['method'], path: string, body: unknown = null): void =>
    void out.push({ seq: out.length + 1, method, path, body, refused: null, sentAt: null });
  touches.forEach(({ does, which, record, value, twice }, k) => {
    const time = new Date(Date.UTC(2026, 4, 2, 6, k)).toISOString();
    if (does === 'begin') {
      if (trip) return;
      trip = { id: `t${k}`, body: { trip: `day ${k}`, start: time, end: null, purpose: null, goal: null } as Omit<TripRow, 'id'> };
      kept = [];
      write('PUT', `/waters/${WATER}/trips/${trip.id}`, trip.body);
      return;
    }
    if (!trip) return;
    const one = kept.length ? kept[Math.floor(which * kept.length)] : null;
    switch (does) {
      case 'end':
        write('PUT', `/waters/${WATER}/trips/${trip.id}`, { ...trip.body, end: time });
        trip = null;
        return;
      case 'throw away':
        write('DELETE', `/waters/${WATER}/trips/${trip.id}`);
        trip = null;
        return;
      case 'read':
        for (let n = 0; n < (twice ? 2 : 1); n++) write('POST', `/trips/${trip.id}/conditions`, { time, surface_temperature_c: value });
        return;
      case 'mark': {
        const made = { path: `/trips/${trip.id}/${record}/r${k}`, body: { time, count: value } };
        kept.push(made);
        write('PUT', made.path, made.body);
        return;
      }
      case 'edit':
        if (one) write('PUT', `${one.path}${twice ? '?base=1' : ''}`, (one.body = { ...one.body, count: value, note: `edit ${k}` }));
        return;
      case 'take back':
        if (!one) return;
        kept = kept.filter((r) => r !== one);
        write('DELETE', one.path);
    }
  });
  return out;
}

const byId = <T extends { id: string }>(rows: T[]): T[] => [...rows].sort((a, b) => (a.id < b.id ? -1 : 1));
const readings = (log: WaterLog) =>
  log.readings.map((r) => `${r.trip} ${r.time} ${r.surface_temperature_c}`).sort((a, b) => (a < b ? -1 : 1));

describe('whatever is done on the Deck, and whenever its network fails', () => {
  it('the device shows what the server will hold once all has reached it', () => {
    fc.assert(
      fc.property(
        fc.array(touch, { maxLength: 40 }).map((touches) => [{ ...touches[0], does: 'begin' } as Touch, ...touches]),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (touches, answered, sent) => {
          const entries = writesOf(touches);
          const reached = Math.round(sent * entries.length);
          // The server answered with what it held then; more was sent while the answer was on its way.
          const asked = Math.round(answered * reached);
          const [then, finally_] = [new Server(), new Server()];
          entries.slice(0, asked).forEach((e) => then.take(e));
          entries.forEach((e) => finally_.take(e));
          const asOf = 1000 * asked + 1;
          const state = {
            sent: entries.slice(0, reached).map((e) => ({ ...e, sentAt: 1000 * e.seq })),
            waiting: entries.slice(reached),
            stuck: false,
          };
          const pending = since(state, asOf);
          const [shown, held] = [appliedLog(then.log(), WATER, pending), finally_.log()];
          expect(byId(shown.trips)).to.deep.equal(byId(held.trips));
          expect(readings(shown)).to.deep.equal(readings(held));
          for (const { id } of held.trips) {
            // One that no server knows yet is begun from what the log shows.
            const trip = shown.trips.find((t) => t.id === id)!;
            const [mine, theirs] = [appliedTrip({ ...then.trip(id), trip }, pending), finally_.trip(id)];
            for (const record of RECORDS)
              expect(byId(mine[record] as Row[]), `${record} of ${id}`).to.deep.equal(byId(theirs[record] as Row[]));
          }
        },
      ),
      { numRuns: 400 },
    );
  });
  it('nothing is shown of what was refused, and other waters are left alone', () => {
    const entries = writesOf([
      { does: 'begin', which: 0, record: 'contacts', value: 1, twice: false },
      { does: 'mark', which: 0, record: 'contacts', value: 1, twice: false },
    ]);
    const refused = entries.map((e) => ({ ...e, refused: 'trip is missing' }));
    expect(since({ sent: [], waiting: refused, stuck: false }, 0)).to.deep.equal([]);
    expect(entries.filter((e) => ofLog(e, WATER)).map((e) => e.seq)).to.deep.equal([1]);
    expect(entries.filter((e) => ofLog(e, 'another'))).to.deep.equal([]);
  });
});
