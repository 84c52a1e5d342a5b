import { expect } from 'chai';
import { outcomeOf, type Outlook } from '../../src/forecast';
import type { Look, SeenTarget } from '../../src/logbook';
import { seenTarget } from '../support/seen-target';

const target = (species: string): SeenTarget => seenTarget({ target: species, species });
const look = (column: number, species: string[], more: Partial<Look> = {}): Look => ({
  column,
  row: 0,
  visit: 0,
  kind: 'scan',
  from: 100,
  to: 200,
  effort: 625,
  area: 625,
  view: null,
  reach: null,
  targets: species.map(target),
  ...more,
});
const outlook: Outlook = {
  species: 'zander',
  at: 50,
  columns: [0, 1, 2],
  rows: [0, 0, 0],
  chances: [0.5, 0.2, 0.1],
  places: [
    { name: 'Hump', chance: 0.5, cells: [[0, 0]] },
    { name: 'Flat', chance: 0.1, cells: [[2, 0], [3, 0]] }, // prettier-ignore
  ],
};
const is = (name: string): boolean => name === 'zander';

describe('a forecast held against the trip', () => {
  it('expects for what was scanned, whole and half cells, and counts what was seen', () => {
    const o = outcomeOf(outlook, [look(0, ['zander', 'zander']), look(1, ['perch'], { effort: 312.5 })], is);
    expect(o.expected).to.be.closeTo(Math.LN2 - 0.5 * Math.log(0.8), 1e-9);
    expect([o.saw, o.looks, o.places, o.placesLooked]).to.deep.equal([2, 2, 2, 1]);
    expect(o.low).to.be.below(o.expected);
    expect(o.high).to.be.above(o.expected);
    // 0.5 and seen; 1 − 0.8^½ and not seen.
    expect(o.logScore).to.be.closeTo((Math.log(0.5) + 0.5 * Math.log(0.8)) / 2, 1e-6);
  });
  it('leaves out what was looked at before it was shown, and water that it did not speak of', () => {
    const o = outcomeOf(outlook, [look(0, ['zander'], { from: 10, to: 40 }), look(9, ['zander'])], is);
    expect([o.looks, o.expected, o.saw, o.placesLooked]).to.deep.equal([0, 0, 0, 0]);
  });
  it('counts a place as looked at when any of its cells was, by fishing too', () => {
    expect(outcomeOf(outlook, [look(3, [], { kind: 'fish', effort: 10 })], is).placesLooked).to.equal(1);
  });
});
