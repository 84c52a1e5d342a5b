import { expect } from 'chai';
import fc from 'fast-check';
import type { ValidationError } from 'yup';
import { columnFor } from '../../src/lake';
import {
  DEFAULT_RULE,
  defaultSpecies,
  depthRuleSchema,
  depthWindow,
  firstGuessDepth,
  lightLimit,
  readDepthRule,
  speciesLike,
  speciesSchema,
  suitability,
  suitabilityStep,
  type SpeciesProfile,
} from '../../src/species';

const zander = defaultSpecies.find((s) => s.name === 'zander')!;

/** What is said against a profile: field and words; empty where it is taken. */
const refused = (profile: unknown, schema = speciesSchema as { validateSync: (value: unknown) => unknown }): string => {
  try {
    schema.validateSync(profile);
  } catch (error) {
    return `${(error as ValidationError).path}: ${(error as ValidationError).message}`;
  }
  return '';
};

describe('an edited species', () => {
  it('may be any that is shipped', () => {
    for (const s of defaultSpecies) expect(refused(s), s.name).to.equal('');
    const own = speciesLike(zander, 'moonfin', 'own values, begun from zander');
    expect(refused(own)).to.equal('');
    expect([own.preferred, own.aliases, own.scientific, own.lengthWeight]).to.deep.equal([zander.preferred, [], null, null]);
  });
  it('is refused by the name of its field where a limit is none, out of order or unknown', () => {
    const cases: [Partial<Record<keyof SpeciesProfile, unknown>>, string][] = [
      [{ name: ' ' }, 'name'],
      [{ preferred: [20, 12] }, 'preferred: must rise'],
      [{ preferred: [12] }, 'preferred: needs a lower and an upper'],
      [{ preferred: [-9, 20] }, 'preferred[0]: is impossible'],
      [{ preferred: ['12', 20] }, 'preferred[0]: must be a number'],
      [{ upperAvoidance: 3 }, 'upperAvoidance: must not lie below'],
      [{ handlingStress: null }, 'handlingStress'],
      [{ leastOxygen: 30 }, 'leastOxygen: is impossible: it must be from 0 to 14'],
      [{ spawning: { from: 14, to: 9, direction: 'rising' } }, 'spawning: must rise'],
      [{ spawning: { from: 9, to: 14, direction: 'up' } }, 'spawning.direction: must be one of rising, falling'],
      [{ largest: 40 }, 'largest: is impossible'],
      [{ spawning: { from: 9, to: 14, direction: 'rising', depth: [3, 1] } }, 'spawning.depth: must rise'],
      [{ light: 'dark' }, 'light: must be one of shy'],
      [{ place: 'everywhere' }, 'place: must be one of bottom'],
      [{ drawnTo: { wood: 2, weed: 0, hard: 0 } }, 'drawnTo.wood: is impossible: it must be from 0 to 1'],
      [{ lengthWeight: { a: -1, b: 3 } }, 'lengthWeight.a'],
      [{ strategies: ['bait'] }, 'strategies: must be settings by name'],
      [{ source: undefined }, 'source: is missing'],
      [{ colour: 'gold' } as never, 'does not know the field colour'],
    ];
    for (const [change, words] of cases) expect(refused({ ...zander, ...change }), JSON.stringify(change)).to.include(words);
  });
});

describe('the depth rule of a water', () => {
  it('is read as it was stored, and what is no sensible number of it is the usual one', () => {
    expect(readDepthRule({ lightBase: 1, lightFactor: 3, clearFrom: 5 })).to.deep.equal({ lightBase: 1, lightFactor: 3, clearFrom: 5 });
    for (const nonsense of [null, undefined, 'rule', 7, [], { lightBase: '2', lightFactor: -1, clearFrom: NaN }, { lightBase: Infinity }])
      expect(readDepthRule(nonsense), JSON.stringify(nonsense)).to.deep.equal(DEFAULT_RULE);
    // A coast has no light rule unless somebody sets one.
    expect(readDepthRule(null, 'coast').clearFrom).to.equal(0);
    expect(readDepthRule({ clearFrom: 4 }, 'coast').clearFrom).to.equal(4);
    expect(readDepthRule({ lightFactor: 5 })).to.deep.equal({ ...DEFAULT_RULE, lightFactor: 5 });
  });
  it('when edited is refused by name, and taken where it is one', () => {
    expect(refused(DEFAULT_RULE, depthRuleSchema)).to.equal('');
    expect(refused({ ...DEFAULT_RULE, lightFactor: 101 }, depthRuleSchema)).to.equal(
      'lightFactor: is impossible: it must be from 0 to 100',
    );
    expect(refused({ lightBase: 2, lightFactor: 4 }, depthRuleSchema)).to.equal('clearFrom: is missing');
    expect(refused({ ...DEFAULT_RULE, darkness: 1 }, depthRuleSchema)).to.include('does not know the field darkness');
  });
});

describe('the depths that a day leaves to a species', () => {
  const species = fc.constantFrom(...defaultSpecies);
  const anyDay = fc.record({
    surface: fc.double({ min: 0, max: 31, noNaN: true }),
    month: fc.integer({ min: 0, max: 11 }),
    maxDepth: fc.double({ min: 1, max: 90, noNaN: true }),
    secchi: fc.double({ min: 0.2, max: 15, noNaN: true }),
    sunHeight: fc.double({ min: -50, max: 65, noNaN: true }),
    // Warm water and layers deeper than most, where cold fish have to go down.
    set: fc.option(fc.tuple(fc.double({ min: 2, max: 30, noNaN: true }), fc.double({ min: 0.5, max: 6, noNaN: true }))),
  });
  const columnOf = ({ surface, month, maxDepth, secchi, set }: typeof anyDay extends fc.Arbitrary<infer T> ? T : never) =>
    columnFor({
      surface,
      secchi,
      maxDepth,
      at: new Date(Date.UTC(2026, month, 15, 12)),
      latitude: 48,
      altitude: 100,
      lengthKm: 3,
      thermoclineSet: set && { top: set[0], bottom: set[0] + set[1] },
    });
  it('lie in the water, in order, each edge with its reason, and the first guess lies among them', () => {
    fc.assert(
      fc.property(species, anyDay, (s, day) => {
        const column = columnOf(day);
        const window = depthWindow(s, { column, ...day });
        expect(window.top).to.be.within(0, day.maxDepth);
        expect(window.bottom).to.be.at.most(day.maxDepth);
        for (const { code, values } of [window.topReason, window.bottomReason]) {
          expect(code).to.match(/^window\./);
          for (const v of Object.values(values)) expect(Number.isFinite(v), code).to.equal(true);
        }
        if (window.empty) return;
        expect(window.bottom).to.be.above(window.top);
        expect(firstGuessDepth(s, window, column)).to.be.within(window.top, window.bottom);
      }),
      { numRuns: 1000 },
    );
  });
  it('suit no worse in clearer water, and a species that needs more oxygen no better', () => {
    fc.assert(
      fc.property(species, anyDay, fc.double({ min: 0.1, max: 4, noNaN: true }), (s, day, more) => {
        const column = columnOf(day);
        // Light that reaches deeper takes nothing away at any depth from fish that do not shun it …
        const clearer = { column, ...day, secchi: day.secchi + more };
        const [murky, clear] = [suitability(s, { column, ...day }), suitability(s, clearer)];
        if (s.light !== 'shy') murky.forEach((at, k) => expect(clear[k].whole).to.be.at.least(at.whole - 1e-9));
        // … and a window goes on deeper, unless the best depth, which it is drawn by, is a better one. Edges are drawn between steps.
        const [before, after] = [depthWindow(s, { column, ...day }), depthWindow(s, clearer)];
        if (Math.abs(after.best - before.best) < 1e-9) expect(after.bottom).to.be.at.least(before.bottom - suitabilityStep(day.maxDepth));
        const needy = { ...s, leastOxygen: s.leastOxygen + more };
        const less = suitability(needy, { column, ...day });
        murky.forEach((at, k) => expect(less[k].whole).to.be.at.most(at.whole + 1e-9));
      }),
      { numRuns: 400 },
    );
    expect(lightLimit(2)).to.equal(10);
  });
});
