import { expect } from 'chai';
import fc from 'fast-check';
import { lookedAt, sawSpecies, tallyOf } from '../../src/forecast';
import { cellKey } from '../../src/geo';
import type { Look } from '../../src/logbook';

const target = fc.record({ kind: fc.constantFrom('fish', 'bait'), species: fc.constantFrom(null, 'perch', 'barsch', 'zander') });
const look = fc.record({ column: fc.nat(3), row: fc.nat(2), targets: fc.array(target, { maxLength: 3 }) }) as unknown as fc.Arbitrary<Look>;
/** Two names of one species. */
const isPerch = (name: string): boolean => name === 'perch' || name === 'barsch';

describe('looks counted by cell', () => {
  it('say of a species what its looks say one by one, whatever names it goes by', () => {
    // One column lies off the chart.
    const index = new Map<number, number>();
    for (let column = 0; column < 3; column++) for (let row = 0; row < 3; row++) index.set(cellKey(column, row), index.size);
    fc.assert(
      fc.property(fc.array(look, { maxLength: 40 }), (looks) => {
        const told = new Map(tallyOf(JSON.parse(JSON.stringify(lookedAt(looks))), isPerch, index).map(([cell, ...of]) => [cell, of]));
        const one = new Map<number, [number, number]>();
        for (const l of looks) {
          const cell = index.get(cellKey(l.column, l.row));
          if (cell === undefined) continue;
          const of = one.get(cell) ?? [0, 0];
          one.set(cell, [of[0] + 1, of[1] + (sawSpecies(l, isPerch) ? 1 : 0)]);
        }
        expect([...told].sort()).to.deep.equal([...one].sort());
      }),
      { numRuns: 200 },
    );
  });
});
