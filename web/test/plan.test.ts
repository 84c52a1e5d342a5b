import { expect } from 'chai';
import type { DayPlan } from '@restless-shoal/core/contract';
import { defaultSpecies } from '@restless-shoal/core/species';
import type { StoredResponse, StoredStop, TripDetail, TripRow } from '../src/api/queries';
import { blanksInARow, isToday, openStops } from '../src/views/deck/plan-line';
import { needOf } from '../src/views/plan/need';
import { USUAL } from '../src/views/plan/settings';
import { spanOf } from '../src/views/plan/span';

const place = { latitude: 48.2, longitude: -34.6 };
const at = new Date('2026-06-20T12:00:00Z');
const MINUTE = 60_000;

describe('the span of a day that is planned', () => {
  it('is from dawn for six hours, or as it was set', () => {
    const usual = spanOf(USUAL, at, 'Etc/UTC', place, null);
    expect(usual.to - usual.from).to.equal(360 * MINUTE);
    // At 48° north, 35° west the sun of midsummer comes up about half past six.
    expect(new Date(usual.from).toISOString()).to.match(/^2026-06-20T0[56]/);
    const set = spanOf({ ...USUAL, from: '07:10', to: '11:00' }, at, 'Etc/UTC', place, null);
    expect([set.from, set.to]).to.deep.equal([Date.parse('2026-06-20T07:10Z'), Date.parse('2026-06-20T11:00Z')]);
  });
  it('begins now on the water, whatever was set before, and gives what is left of the time for search passes', () => {
    const set = { ...USUAL, from: '07:10', scouting: 60 };
    expect(spanOf(set, at, 'Etc/UTC', place, null).stopsFrom).to.equal(Date.parse('2026-06-20T08:10Z'));
    const underway = spanOf(set, at, 'Etc/UTC', place, at.getTime() - 20 * MINUTE);
    expect(underway.from).to.equal(at.getTime());
    expect(underway.stopsFrom).to.equal(at.getTime() + 40 * MINUTE);
    expect(spanOf(set, at, 'Etc/UTC', place, at.getTime() - 300 * MINUTE).stopsFrom).to.equal(at.getTime());
  });
});

describe('what a day is after', () => {
  const trip = (more: Partial<TripRow>): TripRow => ({ id: 't', trip: 't', start: '', end: null, purpose: null, goal: null, bag: null, least_length_m: null, ...more }) as TripRow; // prettier-ignore
  const landed = (mass_kg: number) => ({ response: 'landed', species: 'zander', length_m: 0.6, mass_kg }) as StoredResponse;
  const detail = (responses: StoredResponse[]): TripDetail => ({ responses }) as TripDetail;
  it('is any fish until a tournament’s bag is full, then fish that beat the least of it', () => {
    const running = trip({ purpose: 'tournament', goal: 'best', bag: 2 });
    expect(needOf(running, detail([landed(1.5)]), defaultSpecies)).to.deep.equal({
      goal: 'action',
      bag: { counted: 1, of: 2, toBeat: null },
    });
    expect(needOf(running, detail([landed(1.5), landed(2)]), defaultSpecies)).to.deep.equal({ goal: 'size', bag: { counted: 2, of: 2, toBeat: 1.5 } }); // prettier-ignore
  });
  it('is as the trip says, and any fish where no trip runs', () => {
    expect(needOf(trip({ goal: 'size' }), null, defaultSpecies)).to.deep.equal({ goal: 'size', bag: null });
    expect(needOf(null, null, defaultSpecies)).to.deep.equal({ goal: 'action', bag: null });
  });
});

describe('a plan that is followed', () => {
  const made = at.getTime();
  const stop = (id: string, latitude: number) => ({ id, name: id, latitude, longitude: -34.6, depth_m: 4, arrive: made, leave: made, chance: 0.5, brings: 1, pace: 10, expected: 0.3, way: [] }); // prettier-ignore
  const plan = { made, species: 'zander', from: made, to: made + 360 * MINUTE, ramp: place, stops: [stop('a', 48.2), stop('b', 48.21), stop('c', 48.22)], home: null, passes: null } as DayPlan; // prettier-ignore
  const fished = (latitude: number, outcome: string | null, minutes: number) =>
    ({ id: `${minutes}`, latitude, longitude: -34.6, start: new Date(made).toISOString(), end: new Date(made + minutes * MINUTE).toISOString(), outcome }) as unknown as StoredStop; // prettier-ignore
  it('leaves what was fished since, and what was left out', () => {
    expect(openStops(plan, [fished(48.2001, 'nothing', 20)], []).map((s) => s.id)).to.deep.equal(['b', 'c']);
    expect(openStops(plan, [fished(48.2, 'fish', -200)], ['c']).map((s) => s.id)).to.deep.equal(['a', 'b']);
  });
  it('is of its day alone', () => {
    expect(isToday(plan, made)).to.equal(true);
    expect(isToday(plan, made + 48 * 60 * MINUTE)).to.equal(false);
    expect(isToday(null, made)).to.equal(false);
  });
  it('counts blanks back to the last stop that gave something; a stop not ended, or not fishable, is none', () => {
    expect(blanksInARow([])).to.equal(0);
    const stops = [fished(48.2, 'fish', 10), fished(48.2, 'nothing', 30), fished(48.2, 'unfishable', 40), fished(48.2, 'nothing', 50), fished(48.2, null, 60)]; // prettier-ignore
    expect(blanksInARow(stops)).to.equal(2);
    expect(blanksInARow([...stops, fished(48.2, 'bites', 55)])).to.equal(0);
  });
});
