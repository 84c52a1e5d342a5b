import { expect } from 'chai';
import fc from 'fast-check';
import { emptyRow } from '@restless-shoal/core/logbook';
import type { LoggedTrip, StoredContact, TripDetail } from '../src/api/queries';
import { appliedSpots, appliedTrip, appliedTrips } from '../src/offline/apply';
import type { Entry } from '../src/offline/outbox';
import { EditHistory } from '../src/state/edits';
import { bySeason } from '../src/views/logbook/by-season';
import { weeksOf } from '../src/views/logbook/calendar';
import { oddityOf } from '../src/views/logbook/oddities';
import { reportFacts } from '../src/views/logbook/report-facts';

import { choicesOf, dayOf, filtersOf, isListed, sumOf, withFilters } from '../src/views/logbook/trip-filters';

const trip = (id: string, start: string, more: Partial<LoggedTrip> = {}): LoggedTrip => ({
  id,
  trip: id,
  start,
  end: new Date(Date.parse(start) + 4 * 3_600_000).toISOString(),
  purpose: 'guide',
  goal: null,
  crew: null,
  boat: null,
  notes: null,
  water_id: 'w',
  water: 'Long Mere',
  time_zone: 'Etc/GMT+2',
  looks: 100,
  marks: 3,
  fish: [['perch', 2]],
  landed: [['perch', 1]],
  stops: 1,
  blanks: 0,
  surface_temperature_c: null,
  secchi_m: null,
  wind_from_deg: null,
  wind_speed_ms: null,
  column: [],
  ...more,
});
const entry = (method: Entry['method'], path: string, body: unknown = null): Entry => ({
  seq: 1,
  method,
  path,
  body,
  refused: null,
  sentAt: null,
});
const contact = (more: Partial<StoredContact>): StoredContact => ({ ...emptyRow('contacts'), id: 'c', trip_id: 't', trip: 'A', kind: 'fish', time: '2026-05-02T06:00:00Z', latitude: 48.2, longitude: -34.6, ...more }) as StoredContact; // prettier-ignore

describe('the trips that are listed', () => {
  const trips = [
    trip('late', '2026-05-03T00:30:00Z'),
    trip('pike', '2025-10-10T06:00:00Z', { fish: [['pike', 1]], landed: [], purpose: 'scout', water_id: 'v' }),
  ];
  const listed = (address: string): string[] => trips.filter((t) => isListed(t, filtersOf(new URLSearchParams(address)))).map((t) => t.id);
  it('are those of the day as it is on the water, of a month in any year, of a species, a water, a purpose', () => {
    // Half past midnight in UTC is the evening before where clocks are two hours behind.
    expect(dayOf(trips[0])).to.equal('2026-05-02');
    expect(listed('day=2026-05-02')).to.deep.equal(['late']);
    expect(listed('day=2026-05-03')).to.deep.equal([]);
    expect(listed('month=10')).to.deep.equal(['pike']);
    expect(listed('year=2026')).to.deep.equal(['late']);
    expect(listed('fish=pike')).to.deep.equal(['pike']);
    expect(listed('of=v')).to.deep.equal(['pike']);
    expect(listed('for=guide')).to.deep.equal(['late']);
    expect(listed('for=guide&fish=pike')).to.deep.equal([]);
    expect(choicesOf(trips)).to.deep.equal({ years: ['2026', '2025'], species: ['perch', 'pike'], purposes: ['guide', 'scout'] });
    expect(sumOf(trips)).to.deep.equal({ trips: 2, hours: 8, looks: 200, marks: 6, landed: 1 });
  });
  it('are said by the address, whatever else stands in it', () => {
    const filters = fc.record({ words: fc.string(), water: fc.string(), year: fc.string(), month: fc.string(), day: fc.string(), species: fc.string(), purpose: fc.string() }); // prettier-ignore
    fc.assert(
      fc.property(filters, (f) => {
        const address = withFilters(new URLSearchParams('show=calendar'), f);
        expect(filtersOf(new URLSearchParams(address.toString()))).to.deep.equal(f);
        expect(address.get('show')).to.equal('calendar');
      }),
    );
  });
  it('fall on the days of their months, weeks beginning on Monday', () => {
    expect(weeksOf(2026, 1)[0]).to.deep.equal([null, null, null, null, null, null, 1]);
    expect(weeksOf(2024, 1).flat().filter(Boolean)).to.have.length(29);
    for (let m = 0; m < 12; m++) for (const week of weeksOf(2026, m)) expect(week).to.have.length(7);
    const { years, months, of } = bySeason(trips);
    expect([years, months]).to.deep.equal([['2026', '2025'], ['05', '10']]); // prettier-ignore
    expect(of('2025', null).map((t) => t.id)).to.deep.equal(['pike']);
    expect(of(null, '05').map((t) => t.id)).to.deep.equal(['late']);
    expect(of('2026', '10')).to.deep.equal([]);
  });
});

describe('what this device made of the log', () => {
  it('shows before any server has it: trips deleted and changed, spots added and renamed, many records at once', () => {
    const trips = [trip('a', '2026-05-02T06:00:00Z'), trip('b', '2026-05-03T06:00:00Z')];
    const shown = appliedTrips(trips, [entry('DELETE', '/waters/w/trips/a'), entry('PUT', '/waters/w/trips/b', { notes: 'fog' })]);
    expect(shown.map((t) => [t.id, t.notes, t.marks])).to.deep.equal([['b', 'fog', 3]]);
    const spot = { name: 'Jetty', latitude: 48.2, longitude: -34.6, notes: null };
    const spots = appliedSpots([], 'w', [
      entry('PUT', '/waters/w/spots/s', spot),
      entry('PUT', '/waters/w/spots/s', { ...spot, name: 'Old jetty' }),
    ]);
    expect(spots.map((s) => [s.id, s.name, s.stops])).to.deep.equal([['s', 'Old jetty', 0]]);
    expect(appliedSpots(spots, 'w', [entry('DELETE', '/waters/w/spots/s')])).to.deep.equal([]);
    const detail = {
      asOf: 0,
      trip: { id: 't', trip: 'A' },
      track: [],
      stops: [],
      contacts: [{ id: 'x' }, { id: 'y' }],
      responses: [],
      photos: [],
    } as unknown as TripDetail;
    const edits = [
      { record: 'contacts', id: 'x', done: 'put', row: { species: 'pike' } },
      { record: 'contacts', id: 'y', done: 'deleted', row: null },
      { record: 'responses', id: 'z', done: 'restored', row: { response: 'landed' } },
    ];
    const applied = appliedTrip(detail, [entry('POST', '/trips/t/records', { edits })]);
    expect(applied.contacts).to.deep.equal([{ id: 'x', species: 'pike' }]);
    expect(applied.responses).to.deep.equal([{ id: 'z', response: 'landed' }]);
  });

  it('is taken back and done again in order, however the presses come, and what fails stays where it was', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.constantFrom('do', 'undo', 'redo', 'fail'), { maxLength: 40 }), async (presses) => {
        const history = new EditHistory();
        let log: number[] = [];
        // As it has to be: what is done, and what was taken back.
        let [done, undone]: number[][] = [[], []];
        await Promise.all(
          presses.map((press, k) => {
            if (press === 'do') {
              const edit = { words: String(k), redo: async () => void (await Promise.resolve(), log.push(k)), undo: async () => void (await Promise.resolve(), (log = log.slice(0, -1))) }; // prettier-ignore
              [done, undone] = [[...done, k], []];
              return history.do(edit);
            }
            if (press === 'fail') return history.do({ words: '', redo: () => Promise.reject(new Error('no room')), undo: () => Promise.resolve() }).catch(() => undefined); // prettier-ignore
            if (press === 'undo') {
              if (done.length) [done, undone] = [done.slice(0, -1), [...undone, done.at(-1)!]];
              return history.undo();
            }
            if (undone.length) [done, undone] = [[...done, undone.at(-1)!], undone.slice(0, -1)];
            return history.redo();
          }),
        );
        expect(log).to.deep.equal(done);
        expect(history.snapshot().done.map((e) => Number(e.words))).to.deep.equal(done);
        expect(history.snapshot().undone.map((e) => Number(e.words))).to.deep.equal(undone);
      }),
    );
  });
});

describe('a mark that looks wrong', () => {
  it('lies deeper than its water, or was tapped twice; a tap puts it right', () => {
    expect(oddityOf(contact({ top_m: 3, bottom_m: 4, water_depth_m: 8 }), [])).to.equal(null);
    const deep = oddityOf(contact({ top_m: 7, bottom_m: 9, water_depth_m: 8 }), [])!;
    expect(deep).to.deep.equal({ code: 'deeper', mend: { top_m: 7, bottom_m: 8 } });
    expect(oddityOf(contact({ top_m: 7, bottom_m: 9, water_depth_m: 8, ...deep.mend }), [])).to.equal(null);
    const first = contact({ id: 'a', contact: 'm1', top_m: 3, bottom_m: 4 });
    const again = contact({ id: 'b', contact: 'm2', top_m: 3.2, bottom_m: 4, time: '2026-05-02T06:00:12Z' });
    expect(oddityOf(again, [first])).to.deep.equal({ code: 'twice', mend: { same_as: 'm1' } });
    expect(oddityOf({ ...again, same_as: 'm1' }, [first])).to.equal(null);
    expect(oddityOf({ ...again, time: '2026-05-02T06:05:00Z' }, [first])).to.equal(null);
    expect(oddityOf({ ...again, kind: 'bait' }, [first])).to.equal(null);
  });
});

describe('the facts of a report', () => {
  it('are the fish landed in order of time, bites by lure, and the first readings', () => {
    const fish = (k: number, response: string, more: object = {}): object => ({ ...emptyRow('responses'), id: `r${k}`, time: `2026-05-02T0${k}:00:00Z`, response, ...more }); // prettier-ignore
    const detail = {
      contacts: [contact({ species: 'perch' }), contact({ species: null }), contact({ species: 'perch' }), contact({ kind: 'bait' })],
      stops: [
        { start: '2026-05-02T06:00:00Z', end: '2026-05-02T06:30:00Z' },
        { start: '2026-05-02T07:00:00Z', end: '2026-05-02T07:00:00Z' },
      ],
      responses: [
        fish(8, 'landed', { lure: 'spoon', depth_m: 5 }),
        fish(7, 'landed', { lure: 'jig', depth_m: 3 }),
        fish(6, 'lost', { lure: 'jig' }),
        fish(5, 'followed', { lure: 'jig' }),
        fish(9, 'struck'),
      ],
    } as unknown as TripDetail;
    const readings = [
      { ...emptyRow('conditions'), wind_speed_ms: 3 },
      { ...emptyRow('conditions'), surface_temperature_c: 12, wind_speed_ms: 5 },
    ] as never;
    const facts = reportFacts(detail, readings);
    expect(facts.landed.map((r) => r.id)).to.deep.equal(['r7', 'r8']);
    expect(facts).to.deep.include({ bites: 4, depths: [3, 5], seen: [['perch', 2], ['', 1]], stops: 1, minutes: 30, surface: 12, clarity: null, wind: { from: null, speed: 3 } }); // prettier-ignore
    expect(facts.lures).to.deep.equal([
      { lure: 'jig', bites: 2, landed: 1 },
      { lure: 'spoon', bites: 1, landed: 1 },
    ]);
  });
});
