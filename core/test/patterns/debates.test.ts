import { expect } from 'chai';
import fc from 'fast-check';
import { debates, type Debate, type DebateInputs } from '../../src/patterns/debates';
import { makeClusters } from '../../src/numbers';
import { seeded } from '../../src/numbers';

type Again = DebateInputs['again'];
type Clock = DebateInputs['clocks'][number];
type Settled = DebateInputs['settled'];

const none = new Int32Array(0);
/** A log that holds nothing but what a debate is asked from. */
const nothing = {
  selected: {
    table: { trips: [], trip: none, kind: none, effort: none, from: none, view: none, reach: none, count: 0 },
    scans: none,
    stops: none,
    used: new Float64Array(0),
    effort: new Float64Array(0),
    clusters: makeClusters(none, 0, none, 0),
    targets: [],
    n: { contacts: 0, looks: 0, trips: 0, hectares: 0 },
  },
  values: { of: () => new Float64Array(0) },
  clocks: [],
  mood: [],
  settled: [],
  contacts: [],
  again: [],
} as unknown as DebateInputs;
const asked = (key: string, more: Partial<DebateInputs>): Debate => debates({ ...nothing, ...more }).find((q) => q.key === key)!;

describe('the debates of practitioners', () => {
  it('are all asked of an empty log, and none is answered: each says what it would take', () => {
    const all = debates(nothing);
    expect(all.length).to.be.at.least(13);
    expect(new Set(all.map((q) => q.key)).size).to.equal(all.length);
    for (const { key, verdict, lacks, ratio } of all) {
      expect(verdict, key).to.equal('silent');
      expect(ratio, key).to.equal(null);
      expect(lacks, key).to.not.equal(null);
    }
  });

  describe('roamers or cover', () => {
    const random = seeded(8);
    /** Marks looked for again: at cover so often, in the open so often, days with luck of their own. */
    const log = (trips: number, each: number, atCover: number, open: number): Again =>
      Array.from({ length: trips }, (_, trip) => {
        const luck = 0.75 + 0.5 * random();
        return Array.from({ length: each }, (_, k) => ({ trip, atCover: k % 2 === 0, yes: random() < luck * (k % 2 ? open : atCover) }));
      }).flat();
    it('is answered for the side that was planted, the truth within the interval', () => {
      const { verdict, ratio, sides } = asked('roamers', { again: log(30, 20, 0.6, 0.2) });
      expect(verdict).to.equal('first');
      expect(ratio!.low).to.be.below(3).and.above(1);
      expect(ratio!.high).to.be.above(3);
      expect(sides!.map((s) => s.n)).to.deep.equal([300, 300]);
    });
    it('is left open where there is nothing in it, about as often as its interval promises', () => {
      const verdicts = Array.from({ length: 60 }, () => asked('roamers', { again: log(14, 12, 0.4, 0.4) }).verdict);
      // Eight in ten; sixty logs are known to about five in a hundred.
      expect(verdicts.filter((v) => v === 'open').length / 60).to.be.within(0.65, 0.95);
    });
    it('does not mind the order of the log, and turned round says the other side, as many times over', () => {
      fc.assert(
        fc.property(
          fc.array(fc.record({ trip: fc.nat(6), atCover: fc.boolean(), yes: fc.boolean() }), { minLength: 4, maxLength: 60 }),
          fc.nat(1000),
          (again, turn) => {
            const own = asked('roamers', { again });
            const k = turn % again.length;
            const moved = asked('roamers', { again: [...again.slice(k), ...again.slice(0, k)] });
            const turned = asked('roamers', { again: again.map((r) => ({ ...r, atCover: !r.atCover })) });
            expect(moved.verdict).to.equal(own.verdict);
            expect(turned.verdict).to.equal({ first: 'second', second: 'first', open: 'open', silent: 'silent' }[own.verdict]);
            expect(JSON.stringify(own)).to.not.match(/NaN|Infinity/);
            // One of them says why, or how much longer a log would be needed.
            expect(own.lacks !== null).to.equal(own.verdict === 'silent');
            expect(own.longer !== null).to.equal(own.verdict === 'open');
            if (!own.ratio) return;
            expect(moved.ratio!.value).to.be.closeTo(own.ratio.value, 1e-6 * own.ratio.value);
            expect(turned.ratio!.value * own.ratio.value).to.be.closeTo(1, 1e-6);
            expect(own.ratio.low).to.be.at.most(own.ratio.value);
            expect(own.ratio.high).to.be.at.least(own.ratio.value);
          },
        ),
        { numRuns: 200 },
      );
    });
  });

  describe('fish seen, or water that looks right', () => {
    it('is answered by bites for the time fished, not by bites: twice the time at marks is no answer', () => {
      const random = seeded(4);
      const clock = (trip: number, marked: boolean, rate: number): Clock => {
        const minutes = marked ? 40 : 20;
        let bites = 0;
        for (let m = 0; m < minutes; m++) if (random() < rate) bites++;
        return { trip, early: [0, 0], late: [bites, minutes], after: [0, 0], landed: 0, marked };
      };
      const stops = (marked: number, blind: number): Clock[] =>
        Array.from({ length: 160 }, (_, k) => clock(k >> 3, k % 2 === 0, k % 2 ? blind : marked));
      const [key] = debates({ ...nothing, clocks: stops(0.06, 0.02) }).filter((q) => q.verdict === 'first' && q.ratio);
      expect(key.ratio!.low).to.be.below(3);
      expect(key.ratio!.high).to.be.above(2.4);
      const even = asked(key.key, { clocks: stops(0.03, 0.03) });
      expect(even.ratio!.value).to.be.within(0.6, 1.6);
    });
  });

  describe('what a strong core means', () => {
    const settled = (rows: [was: string, core: string | null, n: number][]): Settled =>
      rows.flatMap(([was, core, n]) =>
        Array.from({ length: n }, (_, k) => ({
          trip: `t${k % 10}`,
          signs: { form: null, density: null, core, place: null, cover: null, count: null, depth: null, season: null },
          guessed: null,
          confidence: null,
          was,
        })),
      );
    it('is told by species, more or less often than other cores, where chance hardly makes it so', () => {
      const told = asked('core', { settled: settled([['zander', 'strong', 18], ['perch', 'strong', 4], ['zander', 'weak', 3], ['perch', 'medium', 20]]) }); // prettier-ignore
      const { species, p, settled: of } = told.among!;
      expect(of).to.equal(45);
      expect(p).to.be.below(0.01);
      expect(told.verdict).to.equal(species === 'zander' ? 'first' : 'second');
      expect(told.sides!.map((s) => s.n)).to.deep.equal([22, 23]);
      expect(told.sides![0].shows).to.deep.equal({ as: 'species among', species, share: (species === 'zander' ? 18 : 4) / 22, of: 22 });
    });
    it('is left open where cores fall alike, and silent with too few, or with one kind of core', () => {
      const alike: [string, string, number][] = [
        ['zander', 'strong', 8],
        ['perch', 'strong', 8],
        ['zander', 'weak', 8],
        ['perch', 'weak', 8],
      ];
      expect(asked('core', { settled: settled(alike) }).verdict).to.equal('open');
      expect(asked('core', { settled: settled(alike.map(([a, b]) => [a, b, 2])) })).to.include({ verdict: 'silent' });
      expect(asked('core', { settled: settled([['zander', 'strong', 30]]) })).to.include({ verdict: 'silent' });
      // Those whose core nobody logged count for nothing.
      expect(asked('core', { settled: settled([...alike.map(([a, b]): [string, string, number] => [a, b, 2]), ['zander', null as never, 40]]) }).verdict).to.equal('silent'); // prettier-ignore
    });
  });
});
