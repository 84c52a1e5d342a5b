import { expect } from 'chai';
import fc from 'fast-check';
import { COVARIATES, STAGES } from '@restless-shoal/core/patterns';
import { besideQuestion, readAddress, writeAddress, type Asked } from '../src/views/patterns/question-address';
import { mostlyLooked, runWords } from '../src/views/patterns/class-words';

const KNOWN = ['zander', 'perch', 'pike'];
const usual: Asked = {
  question: { species: 'zander' },
  page: 'where',
  by: 'depth',
  heat: ['hardness', 'cover'],
  beside: null,
  smooth: false,
  of: null,
};

describe('the address of a question', () => {
  const keys = COVARIATES.map((c) => c.key);
  const day = fc.integer({ min: 1, max: 28 }).map((d) => `2026-0${1 + (d % 9)}-${String(d).padStart(2, '0')}`);
  const span = (min: number, max: number) => fc.tuple(fc.integer({ min: min, max: max }), fc.integer({ min: min, max: max }));
  const asked: fc.Arbitrary<Asked> = fc.record({
    question: fc.record(
      {
        species: fc.constantFrom(...KNOWN, null),
        from: day,
        to: day,
        stages: fc.uniqueArray(fc.constantFrom(...STAGES), { minLength: 1 }),
        surface: span(-2, 30),
        secchi: span(0, 12),
        hours: span(0, 24),
        confirmedOnly: fc.constant(true),
        odds: fc.constantFrom(0.6, 0.7, 0.9),
        size: fc.constantFrom('small' as const, 'large' as const),
      },
      { requiredKeys: ['species'] },
    ),
    page: fc.constantFrom('where' as const, 'mood' as const, 'similar' as const),
    by: fc.constantFrom(...keys),
    heat: fc.tuple(fc.constantFrom(...keys), fc.constantFrom(...keys)).filter(([a, b]) => a !== b),
    beside: fc.constantFrom(null, 'bait', 'fish:perch', 'size:large'),
    smooth: fc.boolean(),
    of: fc.constantFrom(null, { places: [{ latitude: 48.1, longitude: -34.25 }], words: 'the patch drawn' }),
  });
  it('comes back as the same question', () =>
    fc.assert(
      fc.property(asked, (a) => {
        const text = writeAddress(a, 'Some Water').toString();
        expect(readAddress(new URLSearchParams(text), 'pike', KNOWN)).to.deep.equal(a);
      }),
    ));
  it('passes over what it does not know, and keeps the rest', () => {
    const text =
      'fish=unicorn&stage=summer,never&temp=hot&clarity=1..2&hours=5&odds=7&size=huge&page=nowhere&by=luck&heat=depth,depth&of=95,0;1,2&from=soon';
    expect(readAddress(new URLSearchParams(text), 'pike', KNOWN)).to.deep.equal({
      ...usual,
      question: { species: 'pike', stages: ['summer'], secchi: [1, 2] },
      of: { places: [{ latitude: 1, longitude: 2 }], words: 'the place chosen' },
    });
  });
  it('stays short where everything is as usual', () => expect(writeAddress(usual, 'W').toString()).to.equal('water=W&fish=zander'));
});

describe('what is set beside a question', () => {
  it('changes that one thing, and bait has neither size nor certainty', () => {
    const q = { species: 'zander', size: 'large' as const, confirmedOnly: true, from: '2026-05-01' };
    expect(besideQuestion(q, 'fish:perch')).to.deep.equal({ question: { ...q, species: 'perch' }, name: 'perch' });
    expect(besideQuestion(q, 'bait')!.question).to.deep.equal({ species: null, from: '2026-05-01' });
    expect(besideQuestion(q, 'stage:summer')!.question.stages).to.deep.equal(['summer']);
    for (const nonsense of [null, 'stage:never', 'size:huge', 'what']) expect(besideQuestion(q, nonsense)).to.equal(null);
  });
});

describe('a pattern in words', () => {
  const row = (k: number, low: number, effort: number, used = 10) =>
    ({ class: k, label: `${k}`, low, effort, used }) as unknown as Parameters<typeof mostlyLooked>[0][number];
  it('names classes beside each other by their outer limits', () => {
    const classes = [row(2, 0.4, 10), row(3, 1.2, 60), row(4, 1.1, 20), row(5, 0.9, 5), row(7, 1.5, 5, 3)];
    expect(runWords('depth', classes.slice(1, 3))).to.equal('3 to 5 m');
    expect(runWords('above-thermocline', [row(0, 2, 1)])).to.equal('under −6 m');
    expect(runWords('depth', [row(16, 2, 1)])).to.equal('30 m and more');
    expect(mostlyLooked(classes)!.map((c) => c.class)).to.deep.equal([3]);
  });
});
