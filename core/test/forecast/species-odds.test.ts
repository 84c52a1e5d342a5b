import { expect } from 'chai';
import { speciesOdds, type FitLook } from '../../src/forecast';
import { Misclassification } from '../../src/forecast/misclassification';
import { seeded } from '../../src/numbers';
import { defaultSpecies } from '../../src/species';
import { cells, day, look, zander } from '../support/planted-log';
import { seenTarget } from '../support/seen-target';

/** Zander over 4–6 m, bream deeper; a third of the bream are called zander, three marks in ten are settled by a catch. */
function twoKinds(seed: number): { looks: FitLook[]; was: Map<string, string> } {
  const random = seeded(seed);
  const was = new Map<string, string>();
  const looks: FitLook[] = [];
  for (let trip = 0; trip < 40; trip++)
    for (let k = 0; k < 120; k++) {
      const cell = Math.floor(random() * cells.count);
      const depth = cells.depth[cell];
      const targets = (['zander', 'bream'] as const).flatMap((species) => {
        const likes = species === 'zander' ? depth > 4 && depth < 6 : depth >= 6;
        if (random() > (likes ? 0.2 : 0.004)) return [];
        const named = species === 'bream' && random() < 1 / 3 ? 'zander' : species;
        const target = `${trip} ${k} ${species}`;
        was.set(target, species);
        const caught = random() < 0.3;
        return [
          seenTarget({
            target,
            named,
            stated: 0.75,
            form: 'arches',
            species: caught ? species : named,
            confirmed: caught ? 'catch' : 'none',
          }),
        ];
      });
      looks.push({ look: look(cell, 0, { targets }), cell, trip, day });
    }
  return { looks, was };
}

describe('what the marks of a log were', () => {
  it('is told by where each species is: most of what was wrongly named is seen through, and they come out as many as they are', () => {
    const { looks, was } = twoKinds(5);
    const unsettled = looks.flatMap(({ look: { targets } }, k) =>
      targets.flatMap((target, j) => (target.confirmed === 'none' ? [[k, j] as const] : [])),
    );
    const odds = speciesOdds(looks, zander, defaultSpecies, cells);
    const rows = looks.flatMap((l, k) => l.look.targets.map((target) => ({ look: k, trip: l.trip, target })));
    const names = new Misclassification(rows, (name) => name);
    const byName = new Map(rows.map((r, t) => [r.target.target, names.odds()[t][names.species.indexOf('zander')]]));
    let [sum, truly, off, offByName, deep] = [0, 0, 0, 0, 0];
    for (const [k, j] of unsettled) {
      const { target, named } = looks[k].look.targets[j];
      const is = was.get(target) === 'zander' ? 1 : 0;
      const said = odds[k].odds[j];
      sum += said;
      truly += is;
      off += (said - is) ** 2;
      offByName += (byName.get(target)! - is) ** 2;
      if (!is && named === 'zander' && cells.depth[looks[k].cell] > 6.5) deep = Math.max(deep, said);
    }
    expect(sum / truly).to.be.within(0.9, 1.1);
    // What places say leaves less than two fifths of the error that names alone leave.
    expect(off / offByName).to.be.below(0.4);
    expect(deep).to.be.below(0.35);
  });
  it('does not depend on the order of the looks beyond which of the blanks are drawn', () => {
    const { looks, was } = twoKinds(6);
    const truly = [...was.values()].filter((s) => s === 'zander').length;
    const total = (of: FitLook[]): number =>
      speciesOdds(of, zander, defaultSpecies, cells).reduce((s, l) => s + Array.from(l.odds).reduce((a, o) => a + o, 0), 0);
    expect(Math.abs(total(looks) - total([...looks].reverse())) / truly).to.be.below(0.01);
  });
});
