import { expect } from 'chai';
import { defaultSpecies, findSpecies, neutralProfile, spawningDepth } from '../../src/species';

describe('the shipped species', () => {
  it('are thirty and more, a dozen of them coastal, each with its source and limits in order', () => {
    expect(defaultSpecies.length).to.be.at.least(50);
    expect(defaultSpecies.filter((s) => s.guild === 'marine').length).to.be.at.least(12);
    for (const s of defaultSpecies) {
      expect(s.source, s.name).to.match(/\d{4}/);
      expect(s.preferred[0], s.name).to.be.below(s.preferred[1]);
      expect(s.preferred[1], s.name).to.be.at.most(s.upperAvoidance);
      expect(s.handlingStress, s.name).to.be.at.most(s.upperAvoidance);
      if (s.spawning) expect(s.spawning.from, s.name).to.be.below(s.spawning.to);
      const depth = spawningDepth(s);
      if (depth) expect(depth[0], s.name).to.be.below(depth[1]);
      expect(s.largest, s.name).to.be.within(0.1, 3);
      expect(s.leastOxygen, s.name).to.be.within(1, 8);
    }
  });
  it('are found by common name, alias or scientific name, whatever the case, and no name means two of them', () => {
    for (const [name, found] of [
      ['Pikeperch', 'zander'],
      ['ESOX LUCIUS', 'pike'],
      ['bream', 'bream'],
      ['roach', 'roach'],
      ['Smelt', 'smelt'],
      ['vendace', 'vendace'],
      ['charr', 'arctic char'],
    ])
      expect(findSpecies(name, defaultSpecies)!.name).to.equal(found);
    const names = defaultSpecies.flatMap((s) => [s.name, s.scientific!, ...s.aliases].map((n) => n.toLowerCase()));
    expect(new Set(names).size).to.equal(names.length);
    expect(findSpecies('moonfin', defaultSpecies)).to.equal(null);
    expect(neutralProfile('moonfin').uncertain).to.include('all of it');
  });
});
