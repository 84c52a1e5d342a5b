import { expect } from 'chai';
import { Misclassification, type NamedTarget } from '../../src/forecast/misclassification';
import type { SeenTarget } from '../../src/logbook';
import { seeded } from '../../src/numbers';
import { seenTarget } from '../support/seen-target';

const target = (n: number, more: Partial<SeenTarget>): NamedTarget => ({
  look: n,
  trip: 0,
  target: seenTarget({
    target: `t${n}`,
    species: null,
    confidence: 0.75,
    count: 2,
    stated: 0.75,
    form: 'arches',
    core: 'medium',
    ...more,
  }),
});
const same = (name: string): string => name;

/** Two species, the second taken for the first in a third of its marks; one mark in ten is caught, the first four times as often. */
function marks(
  n: number,
  seed: number,
  more: (was: string, k: number) => Partial<SeenTarget> = () => ({}),
): { rows: NamedTarget[]; was: string[] } {
  const random = seeded(seed);
  const rows: NamedTarget[] = [];
  const was: string[] = [];
  for (let k = 0; k < n; k++) {
    const true_ = random() < 0.4 ? 'zander' : 'bream';
    const named = true_ === 'bream' && random() < 1 / 3 ? 'zander' : true_;
    const caught = random() < (true_ === 'zander' ? 0.2 : 0.05);
    rows.push(
      target(k, {
        named,
        ...(caught ? { species: true_, confirmed: 'catch' as const, confidence: 1 } : { species: named }),
        ...more(true_, k),
      }),
    );
    was.push(true_);
  }
  return { rows, was };
}
const total = (odds: Float64Array[], k: number): number => odds.reduce((s, o) => s + o[k], 0);

describe('what marks truly were', () => {
  it('gives back the true shares although one species is caught four times as easily', () => {
    const { rows, was } = marks(3000, 3);
    const names = new Misclassification(rows, same);
    const zander = names.species.indexOf('zander');
    const true_ = was.filter((w) => w === 'zander').length;
    const named = rows.filter((r) => r.target.named === 'zander').length;
    expect(named / true_).to.be.above(1.4);
    expect(total(names.odds(), zander) / true_).to.be.within(0.85, 1.15);
  });
  it('takes names given to a mark again for looks of their own where they prove to be, and for echoes where they repeat', () => {
    const told = (again: (was: string, named: string, random: () => number) => string): number => {
      const { rows, was } = marks(2000, 8);
      const random = seeded(9);
      rows.forEach((r, k) => (r.target.alsoNamed = [again(was[k], r.target.named!, random), again(was[k], r.target.named!, random)]));
      const names = new Misclassification(rows, same);
      return names.odds().reduce((s, o, k) => s + (1 - o[names.species.indexOf(was[k])]) ** 2, 0) / rows.length;
    };
    const once = told((_, named) => named);
    const ofTheirOwn = told((was, _, random) => (was === 'bream' && random() < 1 / 3 ? 'zander' : was));
    expect(ofTheirOwn).to.be.below(0.4 * once);
    // Repeated names must not make a fit surer than one name does.
    const { rows, was } = marks(2000, 8);
    const names = new Misclassification(rows, same);
    const single = names.odds().reduce((s, o, k) => s + (1 - o[names.species.indexOf(was[k])]) ** 2, 0) / rows.length;
    expect(once).to.be.within(0.9 * single, 1.15 * single);
  });
  it('is certain of what was in the hand', () => {
    const { rows } = marks(200, 4);
    const names = new Misclassification(rows, same);
    const odds = names.odds();
    rows.forEach((r, k) => {
      if (r.target.confirmed === 'catch') expect(odds[k][names.species.indexOf(r.target.species!)]).to.equal(1);
      expect(odds[k].reduce((s, v) => s + v, 0)).to.be.closeTo(1, 1e-9);
    });
  });
  it('takes weak single specks that nobody was sure of for clutter, and nothing in the hand', () => {
    const { rows } = marks(1000, 5);
    for (let k = 0; k < 100; k++)
      rows.push(
        target(5000 + k, { named: 'zander', species: 'zander', stated: 0.4, confidence: 0.4, form: 'specks', core: 'weak', count: 1 }),
      );
    const odds = new Misclassification(rows, same).odds();
    const clutter = odds[0].length - 1;
    const mean = (from: number, to: number): number => odds.slice(from, to).reduce((s, o) => s + o[clutter], 0) / (to - from);
    expect(mean(1000, 1100)).to.be.above(0.6);
    expect(mean(0, 1000)).to.be.below(0.05);
  });
  it('listens to where the mark stood', () => {
    const { rows, was } = marks(1500, 6);
    const names = new Misclassification(rows, same);
    const before = names.odds();
    const likes = (species: number, look: number): number => (names.species[species] === was[look] ? 1.8 : 0.2);
    names.learn(likes);
    const after = names.odds(likes);
    const brier = (odds: Float64Array[]): number =>
      odds.reduce((s, o, k) => s + (1 - o[names.species.indexOf(was[k])]) ** 2, 0) / odds.length;
    expect(brier(after)).to.be.below(brier(before) * 0.5);
  });
  it('finds that names are better than was said where none was settled after it had been named', () => {
    // One in twelve names is wrong, and each is said to be right six times in ten; a rare kind lives apart from a common one.
    const random = seeded(11);
    const was = Array.from({ length: 400 }, () => (random() < 0.25 ? 'trout' : 'perch'));
    const rows = was.map((kind, k) => {
      const named = random() < 1 / 12 ? (kind === 'trout' ? 'perch' : 'trout') : kind;
      const seen = random() < 0.1;
      return target(k, seen ? { species: kind, named: null, stated: null, confirmed: 'camera' } : { species: named, named, stated: 0.6 });
    });
    const names = new Misclassification(rows, same);
    const likes = (species: number, look: number): number => (names.species[species] === was[look] ? 1.4 : 0.7);
    for (let round = 0; round < 4; round++) names.learn(likes);
    const trout = total(names.odds(likes), names.species.indexOf('trout'));
    expect(trout / was.filter((kind) => kind === 'trout').length).to.be.within(0.8, 1.15);
  });
  it('believes names about as far as they were said to be sure where nothing was ever caught', () => {
    const rows = Array.from({ length: 400 }, (_, k) =>
      target(k, { named: k % 2 ? 'zander' : 'bream', species: k % 2 ? 'zander' : 'bream' }),
    );
    const names = new Misclassification(rows, same);
    const odds = names.odds()[1];
    expect(odds[names.species.indexOf('zander')]).to.be.within(0.65, 0.85);
  });
});
