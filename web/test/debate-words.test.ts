import { expect } from 'chai';
import fc from 'fast-check';
import { DEBATES, type Debate, type Shown } from '@restless-shoal/core/patterns';
import { metric } from '@restless-shoal/core/units';
import { wordDebate } from '../src/views/patterns/debate-words';

const shows: fc.Arbitrary<Shown> = fc.oneof(
  fc.record({ as: fc.constant('bites per rod-hour' as const), bites: fc.nat(99), hours: fc.double({ min: 0, max: 90, noNaN: true }) }),
  fc.record({ as: fc.constant('share' as const), yes: fc.nat(5), of: fc.nat(9) }),
  fc.record({
    as: fc.constant('shallow to deep' as const),
    ratio: fc.double(),
    depth: fc.double({ min: 0, max: 30, noNaN: true }),
    contacts: fc.tuple(fc.nat(9), fc.nat(9)),
  }),
);
const nothing = { sides: null, ratio: null, lacks: null, longer: null, among: null };

describe('the words of a debate', () => {
  it('are whole sentences whatever it shows or lacks', () => {
    const ratio = { value: 1.3, low: 0.9, high: 1.9, trips: 7 };
    const answers: fc.Arbitrary<Partial<Debate>> = fc.oneof(
      fc.record({ verdict: fc.constantFrom('first' as const, 'second' as const), ratio: fc.constant(ratio) }),
      fc.record({
        verdict: fc.constant('open' as const),
        ratio: fc.constant(ratio),
        longer: fc.record({
          times: fc.double({ min: 0, max: 500, noNaN: true }),
          difference: fc.constantFrom('this' as const, 'a quarter' as const),
        }),
      }),
      fc.record({
        verdict: fc.constant('silent' as const),
        lacks: fc.constantFrom(
          { lacks: 'sides' as const, missing: [0, 1] as (0 | 1)[] },
          { lacks: 'trips' as const },
          { lacks: 'record' as const },
          { lacks: 'settings' as const, trips: 1, retuned: 0 },
          { lacks: 'cores' as const, settled: 1, strong: 0 },
        ),
      }),
    );
    // Those whose sides are set against each other.
    const compared = DEBATES.filter((key) => !['gain', 'core', 'forage'].includes(key));
    fc.assert(
      fc.property(fc.constantFrom(...compared), shows, answers, (key, side, answer) => {
        const sides: Debate['sides'] = [{ shows: side, n: 1 }, { shows: side, n: 1 }]; // prettier-ignore
        const worded = wordDebate({ ...nothing, key, sides, ...answer } as Debate, metric);
        expect(worded.question).to.match(/^[A-Z].*\?$/);
        expect(worded.answer).to.match(/^[A-Z\d].*\.$/);
        for (const text of [worded.answer, ...worded.sides]) expect(text).to.not.match(/NaN|undefined|Infinity|[{}]/);
      }),
    );
  });
  it('count one as one, and measure in the reader’s units', () => {
    const gain = { ...nothing, key: 'gain', verdict: 'silent', lacks: { lacks: 'settings', trips: 1, retuned: 0 } } as Debate;
    expect(wordDebate(gain, metric).answer).to.match(/^Settings are logged on 1 trip\. /);
    const range = { ...nothing, key: 'range', verdict: 'silent', lacks: { lacks: 'trips' } } as Debate;
    const sides: Debate['sides'] = [0, 1].map(() => ({
      n: 3,
      shows: { as: 'contacts per hectare', contacts: 3, hectares: 2, looks: 1 },
    })) as never;
    expect(wordDebate({ ...range, sides }, { ...metric, depth: 'ft' }).sides[0]).to.equal(
      'Up to 72 ft: 1.50 contacts per hectare (1 look)',
    );
  });
});
