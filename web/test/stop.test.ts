import { expect } from 'chai';
import { defaultSpecies, massFromLength } from '@restless-shoal/core/species';
import { clockWords, outcomeOf } from '../src/parts/records/outcome';
import { asSent } from '../src/parts/records/trip-record';
import { tally } from '../src/parts/records/tally';
import type { TripDetail } from '../src/api/queries';

type Kind = Parameters<typeof outcomeOf>[0][number]['response'];
const outcome = (seen: boolean, ...kinds: Kind[]): string =>
  outcomeOf(
    kinds.map((response) => ({ response })),
    seen,
  );

describe('what a stop comes to', () => {
  it('is the most that happened; nothing only where nothing was seen', () => {
    expect(outcome(false)).to.equal('nothing');
    expect(outcome(true)).to.equal('seen');
    expect(outcome(false, 'ignored')).to.equal('seen');
    expect(outcome(true, 'ignored', 'followed', 'turned')).to.equal('follows');
    expect(outcome(false, 'followed', 'lost')).to.equal('bites');
    expect(outcome(false, 'landed', 'lost', 'ignored')).to.equal('fish');
  });
  it('shows on a clock', () => expect([0, 59_999, 61_000, 3_723_000].map(clockWords)).to.deep.equal(['0:00', '0:59', '1:01', '1:02:03']));
  it('is sent with the columns of its record and nothing that the server added', () =>
    expect(asSent('stops', { id: 'x', version: 3, trip: 't', stop: 's', rods: 2, outcome: null })).to.deep.equal({
      stop: 's',
      rods: 2,
      outcome: null,
    }));
});

describe('what a trip comes to', () => {
  it('counts targets and not sightings, blanks apart from stops, and what was not said', () => {
    const contact = (contact: string, same_as: string | null, view: string | null = 'side-scan') => ({
      id: contact,
      contact,
      same_as,
      view,
    });
    const stop = (start: string, end: string, outcome: string | null) => ({ id: start, start, end, outcome });
    const detail = {
      contacts: [contact('a', null), contact('b', 'a'), contact('c', 'gone', null)],
      stops: [stop('06:00', '06:00', 'nothing'), stop('07:00', '07:09', 'nothing'), stop('08:00', '08:04', null)],
      responses: [{ response: 'landed' }, { response: 'lost' }],
    } as unknown as TripDetail;
    // The third says it is one that was taken back: it is its own target.
    expect(tally(detail)).to.deep.equal({ targets: 2, sightings: 3, blanks: 1, stops: 2, landed: 1, unsaid: 1, unseen: 1 });
    expect(tally(null).targets).to.equal(0);
  });
});

describe('mass by length', () => {
  it('is W = a·L^b of the species, in kilograms and metres, and unknown where the constants are', () => {
    const [zander] = defaultSpecies.filter((s) => s.name === 'zander');
    const { a, b } = zander.lengthWeight!;
    expect(massFromLength(zander, 0.5)).to.be.closeTo((a * 50 ** b) / 1000, 1e-9);
    expect(massFromLength(zander, 0.5)).to.be.within(0.8, 1.6);
    expect(massFromLength({ ...zander, lengthWeight: null }, 0.5)).to.equal(null);
    expect(massFromLength(zander, 0)).to.equal(null);
  });
});
