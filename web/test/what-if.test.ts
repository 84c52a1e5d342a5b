import { expect } from 'chai';
import fc from 'fast-check';
import { appliedLog, appliedTrip } from '../src/offline/apply';
import type { Entry } from '../src/offline/outbox';
import { zoneWords } from '../src/parts/format';
import { readWhatIf, writeWhatIf, type WhatIf } from '../src/state/what-if';

describe('a what-if in the address', () => {
  it('comes back as it was, and leaves the rest of the address alone', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true }).map((v) => Number(v.toFixed(2)));
    fc.assert(
      fc.property(
        fc.record(
          {
            at: fc
              .date({ min: new Date('2000-01-01'), max: new Date('2090-01-01'), noInvalidDate: true })
              .map((d) => new Date(Math.floor(d.getTime() / 60_000) * 60_000)),
            surface: number(-2, 45),
            secchi: number(0.01, 80),
            windFrom: number(0, 360),
            windSpeed: number(0, 100),
            level: number(-200, 200),
            levelTrend: number(-50, 50),
            currentSpeed: number(0, 20),
            currentTo: number(0, 360),
            thermoclineSet: fc
              .tuple(number(0, 20), number(0.1, 20))
              .map(([top, more]) => ({ top, bottom: Number((top + more).toFixed(2)) })),
          },
          { requiredKeys: [] },
        ),
        (whatIf) => {
          const address = writeWhatIf(new URLSearchParams('water=Alder+Mere&tool=draw&if-surface=3'), whatIf as WhatIf);
          // −0 is written as 0.
          expect(JSON.stringify(readWhatIf(address))).to.equal(
            JSON.stringify(readWhatIf(writeWhatIf(new URLSearchParams(), whatIf as WhatIf))),
          );
          for (const [key, value] of Object.entries(whatIf))
            expect(Object(readWhatIf(address))[key], key).to.deep.equal(typeof value === 'number' ? value + 0 : value);
          expect([address.get('water'), address.get('tool')]).to.deep.equal(['Alder Mere', 'draw']);
        },
      ),
    );
  });
  it('that makes no sense is passed over', () => {
    expect(readWhatIf(new URLSearchParams('if-surface=warm&if-wind=900&if-at=soon&if-thermocline=7-5&if-clarity='))).to.deep.equal({});
  });
});

describe('what is deleted and brought back on this device', () => {
  const entry = (method: Entry['method'], path: string, body: unknown = null): Entry => ({
    seq: 1,
    method,
    path,
    body,
    refused: null,
    sentAt: null,
  });
  const trip = {
    id: 't',
    trip: 'A',
    start: '2026-05-02T06:00:00Z',
    end: null,
    purpose: null,
    goal: null,
    crew: null,
    boat: null,
    notes: null,
  };
  it('goes at once and comes back as it was, before any server has answered', () => {
    const detail = { asOf: 0, trip, track: [], stops: [], contacts: [{ id: 'c', count: 3 }], responses: [], photos: [] } as never;
    const gone = appliedTrip(detail, [entry('DELETE', '/trips/t/contacts/c')]);
    expect(gone.contacts).to.deep.equal([]);
    expect(appliedTrip(gone, [entry('POST', '/trips/t/contacts/c/restore', { count: 3 })]).contacts).to.deep.equal([{ id: 'c', count: 3 }]);
  });
  it('a trip, too', () => {
    const log = { asOf: 0, trips: [trip], readings: [], profiles: [] };
    const gone = appliedLog(log, 'w', [entry('DELETE', '/waters/w/trips/t')]);
    expect(gone.trips).to.deep.equal([]);
    expect(appliedLog(gone, 'w', [entry('POST', '/waters/w/trips/t/restore', trip)]).trips).to.deep.equal([trip]);
  });
});

describe('a time zone', () => {
  it('is said as people say it', () => {
    expect(['Etc/GMT+2', 'Etc/GMT-10', 'Etc/UTC', 'America/New_York', null].map(zoneWords)).to.deep.equal([
      'UTC−2',
      'UTC+10',
      'UTC',
      'America/New York',
      'this device’s time',
    ]);
  });
});
