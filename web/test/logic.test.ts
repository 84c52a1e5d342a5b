import { expect } from 'chai';
import fc from 'fast-check';
import type { TripDetail } from '../src/api/queries';
import { deckNow, noteServerTime } from '../src/api/clock';
import { appliedLog, appliedTrip, since } from '../src/offline/apply';
import type { Entry } from '../src/offline/outbox';
import { compass, dayKey, fromLocalInput, grouped, hectares, percent, percentRange, toLocalInput } from '../src/parts/format';

describe('what people read', () => {
  it('chances with sensible digits', () => {
    expect([0.004, 0.03, 0.084, 0.41, 1].map(percent)).to.deep.equal(['0.4 %', '3 %', '8.4 %', '41 %', '100 %']);
    expect(percentRange(0.18, 0.35)).to.equal('18–35 %');
  });
  it('winds by their names', () => expect([0, 44, 247, 359].map(compass)).to.deep.equal(['N', 'NE', 'WSW', 'N']));
  it('large numbers in groups, areas in hectares', () =>
    expect([grouped(14812), hectares(4200), hectares(142_000)]).to.deep.equal(['14\u202f812', '0.4 ha', '14 ha']));
});

describe('times in the water’s zone', () => {
  it('go into a field and come back the same, also across summer time', () => {
    for (const zone of ['Etc/GMT+2', 'CET', 'EST5EDT'])
      for (const time of ['2026-01-14T06:30:00.000Z', '2026-07-14T22:45:00.000Z', '2026-12-31T23:59:00.000Z']) {
        const at = new Date(time);
        expect(fromLocalInput(toLocalInput(at, zone), zone)!.toISOString(), `${zone} ${time}`).to.equal(time);
      }
    fc.assert(
      fc.property(
        fc.constantFrom('CET', 'EST5EDT', 'Australia/Lord_Howe', 'Pacific/Apia', 'Asia/Kathmandu', 'Etc/GMT-14'),
        fc.oneof(
          fc.integer({ min: Date.UTC(2020, 0, 1) / 60_000, max: Date.UTC(2031, 0, 1) / 60_000 }),
          // About the nights in which clocks are changed.
          fc
            .tuple(fc.constantFrom('2026-03-08', '2026-03-29', '2026-04-05', '2026-10-04', '2026-10-25', '2026-11-01'), fc.nat(2 * 1440))
            .map(([day, minutes]) => Date.parse(`${day}T00:00Z`) / 60_000 - 720 + minutes),
        ),
        (zone, minute) => {
          const at = new Date(minute * 60_000);
          const shown = toLocalInput(at, zone);
          const back = fromLocalInput(shown, zone)!;
          expect(toLocalInput(back, zone), 'reads the same').to.equal(shown);
          // An hour that comes twice in a night may be taken for its twin.
          expect(Math.abs(back.getTime() - at.getTime()) / 60_000, 'minutes off').to.be.oneOf([0, 30, 60]);
          const twin = [-60, -30, 30, 60].some((m) => toLocalInput(new Date(at.getTime() + m * 60_000), zone) === shown);
          if (!twin) expect(back.getTime()).to.equal(at.getTime());
        },
      ),
      { numRuns: 600 },
    );
    expect(toLocalInput(new Date('2026-06-14T08:47:00Z'), 'Etc/GMT+2')).to.equal('2026-06-14T06:47');
    expect(fromLocalInput('not a time', null)).to.equal(null);
    expect(['Etc/GMT+8', 'Etc/GMT-10'].map((zone) => dayKey(new Date('2026-06-14T01:30:00Z'), zone))).to.deep.equal([
      '2026-06-13',
      '2026-06-14',
    ]);
  });
});

describe('a trip with what waits in the outbox', () => {
  const trip = {
    id: 't',
    trip: '2026-05-02',
    start: '2026-05-02T06:00:00Z',
    end: null,
    purpose: null,
    goal: null,
    crew: null,
    boat: null,
    notes: null,
  };
  const detail: TripDetail = { asOf: 100, trip, track: [], stops: [], contacts: [], responses: [], photos: [] };
  const entry = (seq: number, method: Entry['method'], path: string, body: unknown = null, sentAt: number | null = null): Entry => ({
    seq,
    method,
    path,
    body,
    refused: null,
    sentAt,
  });
  const ids = (entries: Entry[]): string[] => appliedTrip(detail, entries).contacts.map((c) => c.id);
  it('has the marks that wait, once, the last word winning, and not those that were taken back', () => {
    const mark = entry(1, 'PUT', '/trips/t/contacts/a', { kind: 'fish' });
    expect(ids([mark, entry(2, 'PUT', '/trips/t/contacts/a', { kind: 'bait' })])).to.deep.equal(['a']);
    expect(appliedTrip(detail, [mark, entry(2, 'PUT', '/trips/t/contacts/a', { kind: 'bait' })]).contacts[0].kind).to.equal('bait');
    expect(ids([mark, entry(2, 'DELETE', '/trips/t/contacts/a')])).to.deep.equal([]);
  });
  it('is left alone by what belongs to another trip', () => {
    expect(ids([entry(1, 'PUT', '/trips/other/contacts/a', {}), entry(2, 'POST', '/trips/t/track', [])])).to.deep.equal([]);
    expect(appliedTrip(detail, [entry(1, 'PUT', '/trips/t/stops/s', {})]).stops.map((s) => s.id)).to.deep.equal(['s']);
  });
  it('takes what was sent since the server was asked, what waits unless it was refused, and in the order of the device', () => {
    const [early, late, waits] = [entry(1, 'PUT', '/x', null, 50), entry(3, 'PUT', '/x', null, 150), entry(2, 'PUT', '/x')];
    const state = { sent: [early, late], waiting: [waits, { ...entry(4, 'PUT', '/x'), refused: 'kind is missing' }], stuck: false };
    expect(since(state, detail.asOf).map((e) => e.seq)).to.deep.equal([2, 3]);
  });
  it('begins, is read and ends in the log of its water without a server', () => {
    const log = { asOf: 0, trips: [], readings: [], profiles: [] };
    const begun = { trip: 'today', start: trip.start, end: null, purpose: 'guide', goal: 'size' };
    const reading = entry(2, 'POST', '/trips/t/conditions', { time: '2026-05-02T07:00:00Z', surface_temperature_c: 11.5 });
    const ended = entry(3, 'PUT', '/waters/w/trips/t', { ...begun, end: '2026-05-02T15:00:00Z' });
    const all = appliedLog(log, 'w', [entry(1, 'PUT', '/waters/w/trips/t', begun), reading, reading, ended]);
    expect(all.trips).to.have.length(1);
    expect(all.trips[0]).to.include({ id: 't', goal: 'size', end: '2026-05-02T15:00:00Z' });
    expect(all.readings).to.have.length(1);
    expect(all.readings[0]).to.include({ trip: 'today', surface_temperature_c: 11.5, secchi_m: null });
    expect(appliedLog(log, 'another', [ended]).trips).to.deep.equal([]);
  });
});

describe('the clock of the Deck', () => {
  it('never puts a mark before the one logged last, and goes by the server where the device is wrong', () => {
    const start = 1_790_000_000_000;
    const first = deckNow(start);
    expect(deckNow(start - 60_000), 'put back a minute').to.equal(first + 1);
    noteServerTime(start + 3_600_000, start, start + 100);
    expect(deckNow(start + 100)).to.be.closeTo(start + 3_600_000, 100);
    noteServerTime(start + 350, start, start + 700);
    expect(deckNow(start + 20 * 3_600_000), 'a slow answer is no wrong clock').to.equal(start + 20 * 3_600_000);
  });
});
