import { expect } from 'chai';
import fc from 'fast-check';
import { bagOf } from '../../src/logbook';
import { defaultSpecies, massFromLength } from '../../src/species';

const species = defaultSpecies;
const perch = species.find((s) => s.lengthWeight)!;
const landed = (mass_kg: number | null, length_m: number | null = 0.5) =>
  ({ response: 'landed', species: perch.name, mass_kg, length_m }) as const;

describe('the bag of a tournament', () => {
  it('holds the heaviest that are long enough, and says what the next one has to beat', () => {
    const bag = bagOf([landed(1.2), landed(0.9), landed(2.5), landed(3, 0.2), landed(0.8), { ...landed(9), response: 'lost' as const }], { fish: 3, leastLength: 0.3 }, species); // prettier-ignore
    expect(bag.counted.map((f) => f.mass)).to.deep.equal([2.5, 1.2, 0.9]);
    expect(bag.culled.map((f) => f.mass)).to.deep.equal([0.8]);
    expect(bag.short.map((f) => f.mass)).to.deep.equal([3]);
    expect([bag.total, bag.toBeat]).to.deep.equal([2.5 + 1.2 + 0.9, 0.9]);
  });

  it('takes the mass that a length tells, and sets apart what nobody measured', () => {
    const bag = bagOf([landed(null, 0.4), landed(null, null), landed(2, null)], { fish: 5, leastLength: null }, species);
    expect(bag.counted.map((f) => [f.mass, f.estimated])).to.deep.equal([[2, false], [massFromLength(perch, 0.4), true]]); // prettier-ignore
    expect(bag.unmeasured).to.have.length(1);
    // Where a length decides, a fish that was only weighed may be too short.
    expect(bagOf([landed(2, null)], { fish: 5, leastLength: 0.3 }, species).unmeasured).to.have.length(1);
    expect(bag.toBeat).to.equal(null);
  });

  it('counts each fish once, never more than may count, and no lighter one before a heavier one', () => {
    const any = fc.array(
      fc.tuple(fc.option(fc.double({ min: 0.05, max: 9, noNaN: true })), fc.option(fc.double({ min: 0.05, max: 1.2, noNaN: true }))),
    );
    fc.assert(
      fc.property(any, fc.integer({ min: 1, max: 6 }), (fish, most) => {
        const all = fish.map(([mass, length]) => landed(mass, length));
        const { counted, culled, short, unmeasured, total } = bagOf(all, { fish: most, leastLength: 0.4 }, species);
        const places = [...counted, ...culled, ...short, ...unmeasured].map((f) => f.response);
        expect(new Set(places).size).to.equal(all.length);
        expect(counted.length).to.be.at.most(most);
        expect(total).to.be.closeTo(counted.reduce((s, f) => s + f.mass!, 0), 1e-9); // prettier-ignore
        for (const c of culled) expect(c.mass).to.be.at.most(counted.at(-1)!.mass!);
      }),
    );
  });
});
