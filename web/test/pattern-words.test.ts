import { expect } from 'chai';
import fc from 'fast-check';
import { COVARIATES, type WhereAnswer } from '@restless-shoal/core/patterns';
import { mostlyLooked, runWords } from '../src/views/patterns/class-words';

type Classes = WhereAnswer['classes'];
const classes = (values: { low: number; used: number; effort: number }[], names?: readonly string[]): Classes =>
  values.map((v, k) => ({ ...v, class: k, label: names?.[k] ?? `class ${k}` })) as unknown as Classes;
const some = fc.array(
  fc.record({
    low: fc.constantFrom(0.3, 0.9, 1, 1.2, 4, NaN),
    used: fc.double({ min: 0, max: 1, noNaN: true }),
    effort: fc.oneof(fc.constant(0), fc.double({ min: 0.1, max: 90, noNaN: true })),
  }),
  { minLength: 1, maxLength: 12 },
);

describe('what is chosen, in words', () => {
  it('half of the looking lies in the run that is named, and in no shorter one', () => {
    fc.assert(
      fc.property(some, (values) => {
        const all = classes(values);
        const run = mostlyLooked(all)!;
        const total = values.reduce((s, v) => s + v.effort, 0);
        const effort = (part: Classes): number => part.reduce((s, c) => s + c.effort, 0);
        expect(effort(run)).to.be.at.least(total / 2 - 1e-9);
        for (let a = 0; a < all.length; a++) {
          const shorter = all.slice(a, a + run.length - 1);
          if (run.length > 1) expect(effort(shorter), 'a shorter run').to.be.below(total / 2);
        }
      }),
    );
    expect(mostlyLooked([])).to.equal(null);
  });
  it('have the limits of their classes, with a unit, whatever the covariate', () => {
    for (const { key, edges, labels, unit } of COVARIATES) {
      const names = labels ?? (edges ?? []).map((_, k) => `class ${k}`);
      const all = classes(
        names.map(() => ({ low: 2, used: 1, effort: 1 })),
        names,
      );
      if (all.length < 3) continue;
      const words = [all.slice(0, 1), all.slice(1, 3), all.slice(-1), all].map((run) => runWords(key, run));
      for (const text of words) {
        expect(text, key).to.not.match(/undefined|NaN|null|-\d/);
        if (labels) expect(text).to.equal(text.toLowerCase());
        else if (unit && text !== 'the whole span') expect(text, `${key} has its unit`).to.include(unit);
      }
      if (!labels && edges) {
        expect(words[1], key).to.equal(`${edges[1]} to ${edges[3] ?? ''}`.replaceAll('-', '−').trim() + (unit ? ` ${unit}` : ''));
        expect(words[2], `${key}: the last is open`).to.match(/ and more$/);
      }
    }
    expect(runWords('above-thermocline', classes([{ low: 2, used: 1, effort: 1 }]))).to.equal('under −6 m');
    expect(
      runWords('depth', classes([1, 1, 1, 1, 1, 1, 1, 1].map(() => ({ low: 2, used: 1, effort: 1 }))).slice(5, 8)),
      'in metres of water',
    ).to.equal('5 to 8 m');
  });
});
