import { expect } from 'chai';
import { seeded } from '../../src/numbers';
import { signsOf, TargetOdds, type Settled, type Signs } from '../../src/patterns';

const NONE: Signs = { form: null, density: null, core: null, place: null, cover: null, count: null, depth: null, season: null };
const settled = (trip: number, was: string, signs: Partial<Signs>): Settled => ({ trip: `t${trip}`, was, signs: { ...NONE, ...signs }, guessed: null, confidence: null }); // prettier-ignore
const random = seeded(9);
const pick = <T>(list: readonly [T, number][]): T => {
  let left = random();
  return (list.find(([, p]) => (left -= p) < 0) ?? list.at(-1)!)[0];
};

describe('what a mark is likely to be', () => {
  it('is Bayes, worked by hand', () => {
    // 6 zander, all arches; 3 perch, of which one: arches are 7 of 9.
    const log = [...Array.from({ length: 6 }, (_, k) => settled(k, 'zander', { form: 'arches' })), ...[0, 1, 2].map((k) => settled(k, 'perch', { form: k ? 'cloud' : 'arches' }))]; // prettier-ignore
    const odds = new TargetOdds(log, [], 1);
    const common = 7.5 / 10.5;
    const [zander, perch] = [6.5 * ((6 + 4 * common) / 10), 3.5 * ((1 + 4 * common) / 7)];
    const told = odds.of({ form: 'arches' });
    expect(told[0].species).to.equal('zander');
    expect(told[0].odds).to.be.closeTo(zander / (zander + perch), 1e-12);
    expect(odds.of({})[0].odds).to.be.closeTo(6.5 / 10, 1e-12);
    expect(odds.of({ form: 'never seen before' }).reduce((s, o) => s + o.odds, 0)).to.be.closeTo(1, 1e-12);
    expect(new TargetOdds([], ['pike', 'perch']).of({ form: 'arches' }).map((o) => o.odds)).to.deep.equal([0.5, 0.5]);
  });
  it('trusts signs less where they repeat each other, and is calibrated on trips it has not seen', () => {
    // The core says nothing that the form does not say already.
    const draw = (trip: number, repeated: boolean): Settled => {
      const was = pick([['zander', 0.5], ['perch', 0.5]]); // prettier-ignore
      const form = pick(was === 'zander' ? [['arches', 0.7], ['cloud', 0.3]] : [['arches', 0.3], ['cloud', 0.7]]); // prettier-ignore
      const again = { core: `c ${form}`, density: `d ${form}`, place: `p ${form}` };
      return settled(trip, was, repeated ? { form, ...again } : { form });
    };
    const learned = [false, true].map((repeated) => new TargetOdds(Array.from({ length: 400 }, (_, k) => draw(k % 20, repeated))));
    expect(learned[1].temper).to.be.at.most(0.4);
    expect(learned[0].temper).to.be.at.least(0.6);
    const told = learned[1].of({ form: 'arches', core: 'c arches', density: 'd arches', place: 'p arches' })[0];
    expect(told.species).to.equal('zander');
    expect(told.odds, 'as often as it is so').to.be.closeTo(0.7, 0.06);
  });
  it('names the sign that would settle it best: of two the one that parts what is left', () => {
    // Forms part perch from the others; the core alone parts zander from bream.
    const log = Array.from({ length: 90 }, (_, k) => {
      const was = ['zander', 'bream', 'perch'][k % 3];
      return settled(k % 9, was, { form: was === 'perch' ? 'cloud' : 'arches', core: was === 'zander' ? 'strong' : was === 'bream' ? 'weak' : k % 2 ? 'weak' : 'strong' }); // prettier-ignore
    });
    const odds = new TargetOdds(log);
    expect(odds.settles({ form: 'arches' })!.sign).to.equal('core');
    expect(odds.settles({ form: 'arches' })!.bits).to.be.within(0.4, 1);
    expect(odds.settles({ form: 'arches', core: 'strong' }), 'nothing else was ever said').to.equal(null);
  });
  it('reads signs off a mark as it was logged', () => {
    const mark = {
      time: '2026-07-01T08:00:00Z',
      form: 'arches',
      core: null,
      density: null,
      cover: null,
      count: 3,
      top_m: 4,
      bottom_m: 5,
      water_depth_m: 11,
    } as never;
    expect(signsOf(mark)).to.include({ form: 'arches', core: null, count: '1', depth: '1', place: 'mid-water', season: '2' });
    expect(signsOf({ ...(mark as object), time: '2026-12-01T08:00:00Z', top_m: null, count: null } as never)).to.include({ season: '0', depth: null, place: null, count: null }); // prettier-ignore
  });
});
