import { expect } from 'chai';
import fc from 'fast-check';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { IntlMessageFormat } from 'intl-messageformat';
import { problem } from '@restless-shoal/core/contract';
import { COVARIATES, SIMILARITY_TRAITS } from '@restless-shoal/core/patterns';
import { STRATEGIES, STRATEGY_SETTINGS } from '@restless-shoal/core/species';
import { statement } from '@restless-shoal/core/statements';
import { metric, parseMeasure, UNIT_CHOICES, type UnitSystem } from '@restless-shoal/core/units';
import * as words from '../src/words';
import { de } from '../src/words/de';
import { en } from '../src/words/en';
import { QUANTITIES } from '../src/words/quantities';

const US: UnitSystem = { depth: 'ft', temperature: '°F', speed: 'mph' };
type Part = { type: number; value: string; style?: unknown; options?: Record<string, { value: Part[] }> };
/** What a message asks for: each argument with the quantity it is read as. */
function asked(parts: Part[]): string[] {
  return parts.flatMap((part) => {
    // 0 literal, 7 the number sign of a plural; all others have the argument's name as value.
    if (part.type === 0 || part.type === 7) return [];
    const own = `${part.value}${typeof part.style === 'string' ? ` ${part.style}` : ''}`;
    return [own, ...Object.values(part.options ?? {}).flatMap((o) => asked(o.value))];
  });
}
const argumentsOf = (message: string): string[] => {
  const ast = new IntlMessageFormat(message, 'en', undefined, { ignoreTag: true }).getAst() as unknown as Part[];
  return [...new Set(asked(ast))].sort();
};

afterEach(async () => {
  words.readIn(metric);
  await words.loadWords('en', ['en-GB']);
});

describe('the words of every view', () => {
  for (const [view, messages] of Object.entries(en))
    it(`${view}: the same keys and arguments in German, none of them empty`, () => {
      const other = de[view as keyof typeof de] as Record<string, string>;
      expect(Object.keys(messages).filter((key) => !(key in other))).to.deep.equal([]);
      for (const [key, message] of Object.entries(messages)) {
        expect(other[key].trim(), key).to.not.equal('');
        // The size of fish is named in the message itself where a language has to bend it.
        expect(argumentsOf(other[key]), key).to.deep.equal(argumentsOf(message));
        for (const name of argumentsOf(message)) {
          const style = name.split(' ')[1];
          if (style) expect(Object.keys(QUANTITIES), key).to.include(style);
        }
      }
    });
  it('name all that core knows by a code', () => {
    for (const { key } of COVARIATES) expect(en.covariates, key).to.have.property(key);
    for (const trait of SIMILARITY_TRAITS) expect(en.patterns).to.have.property(`trait.${trait}`);
    for (const strategy of STRATEGIES) expect(en.forecast).to.have.property(`strategy.${strategy}`);
    for (const { key } of STRATEGY_SETTINGS) if (!key.endsWith('.weight')) expect(en.forecast).to.have.property(`setting.${key}`);
    for (const { labels = [] } of COVARIATES) for (const label of labels) expect(en.terms, label).to.have.property(label);
  });
  it('say why the server did not do something, in the language of the page, and else in its own', async () => {
    const told = problem('field-out-of-range', { min: 0.3, max: 1700 }, 'deepest_m');
    expect(words.problemWords(told)).to.equal('deepest_m must be from 0.3 to 1,700');
    await words.loadWords('de', ['de-DE']);
    expect(words.problemWords(told)).to.equal('deepest_m muss zwischen 0,3 und 1.700 liegen');
    // A newer server: a code that this page does not know, a value that it did not use to give.
    expect(words.problemWords({ ...told, code: 'of-tomorrow' as never })).to.equal(told.detail);
    expect(words.problemWords({ ...problem('name-taken', { name: 'A' }), values: {} })).to.equal('name "A" is taken by another water');
  });
  it('hold no unit that a message could have asked for', () => {
    const bare = /\{\w+\} ?(m|ft|°C|°F|m\/s|km|kg|lb|ha)\b/;
    // A form that says what is stored, two digits of a survey's fit, a map's own scale.
    const allowed = ['rigFields.fromToMKept', 'rigFields.fromToSKept', 'previewPlot.kmAcross'];
    for (const messages of Object.values(en))
      for (const [key, message] of Object.entries(messages)) if (!allowed.includes(key)) expect(message, key).to.not.match(bare);
  });
  it('are asked for by keys that there are, each of them somewhere', () => {
    const source = (folder: string): string =>
      readdirSync(folder, { withFileTypes: true })
        .map((f) =>
          f.isDirectory() ? (f.name === 'words' ? '' : source(join(folder, f.name))) : readFileSync(join(folder, f.name), 'utf8'),
        )
        .join('\n');
    const all = source(join(__dirname, '../src'));
    const made =
      /^(title|strategy|setting|trait|verdict|shows|lacks|core|span|trash|seen|minutes|repeat|dawn|roamers|side|school|survey|range|gain|bait|forage|longer|light|in|changed|column|catch|goal|field|oddity|history|moon|gear|gearSheet|gearChoice|recordColumn|table|spotSheet|spotConditions|beams|bench|tuning|picture|practice|likely|adviser|contrastRun|passes|hypothesis|setPlace|tapPlace|spotTime)\b/;
    for (const [view, messages] of Object.entries(en))
      if (!['terms', 'statements', 'covariates', 'problems'].includes(view))
        for (const key of Object.keys(messages)) if (!made.test(key)) expect(all.includes(`'${key}'`), `${view}: ${key}`).to.equal(true);
  });
});

describe('a measure in a message', () => {
  it('stands in the reader’s units, with a number as the language writes it', async () => {
    const suits = statement('reason.depth.suits', { depth: 5.4864, species: 'zander' });
    expect(words.say(suits)).to.equal('5.5 m of water, where zander are looked for today');
    words.readIn(US);
    expect(words.say(suits)).to.equal('18 ft of water, where zander are looked for today');
    words.readIn(metric);
    await words.loadWords('de', ['de-AT', 'en-US']);
    expect(words.say(suits)).to.equal('5,5 m Wasser, wo Zander heute gesucht wird');
    expect(words.locale()).to.equal('de-AT');
    expect(words.say(statement('place.timber', { shape: 'hump' }))).to.equal('Holz auf einer Kuppe');
    expect(words.say(statement('place.shape', { shape: 'hump' }))).to.equal('Kuppe');
  });
  it('says why a mark is worth a stop, with what is known of the day', () => {
    const of = (size: string, tried: number): string =>
      words.say(statement('advice.chance', { chance: 0.161, minutes: 8, count: 3, size, tried, paid: 1 }));
    expect(of('any', 0)).to.equal('about 16 % in 8 min (3 fish, no stop at fish yet today)');
    expect(of('large', 4)).to.equal('about 16 % in 8 min (3 large fish, 1 of 4 stops paid today)');
  });
  it('has plurals', () => {
    expect(words.brief('brief.places', { places: 1 })).to.equal('1 place');
    expect(words.brief('brief.places', { places: 3 })).to.equal('3 places');
  });
  it('a span has one unit, open ends have words', () => {
    expect(words.labelWords({ from: 4, to: 5, unit: 'm' })).to.equal('4 to 5 m');
    expect(words.labelWords({ from: null, to: -6, unit: 'm' })).to.equal('under −6 m');
    words.readIn(US);
    expect(words.labelWords({ from: 10, to: 12, unit: 'm' })).to.equal('33 to 39 ft');
    expect(words.labelWords({ from: 6, to: 10, unit: '°C' })).to.equal('43 to 50 °F');
    expect(words.labelWords({ from: 4, to: 6, unit: 'mg/l' })).to.equal('4 to 6 mg/l');
  });
  it('areas, distances, lengths and masses follow the one setting', () => {
    const said = (): string[] => [
      words.formatArea(20_000),
      words.formatLength(2500),
      words.formatLength(120),
      words.formatFishLength(0.54),
      words.formatMass(1.474),
      words.formatTemperature(20),
      words.formatSpeed(5),
    ];
    expect(said()).to.deep.equal(['2.0 ha', '2.5 km', '120 m', '54 cm', '1.47 kg', '20.0 °C', '5 m/s']);
    words.readIn(US);
    expect(said()).to.deep.equal(['4.9 ac', '1.6 mi', '394 ft', '21.3 in', '3 lb 4 oz', '68.0 °F', '11 mph']);
  });
  it('read back it is the same to the digits shown, in every unit', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 60, noNaN: true }),
        fc.constantFrom(...UNIT_CHOICES.depth),
        fc.constantFrom(...UNIT_CHOICES.temperature),
        fc.constantFrom(...UNIT_CHOICES.speed),
        (v, depth, temperature, speed) => {
          const units = { depth, temperature, speed };
          expect(parseMeasure(words.formatDepth(v, units), 'depth', 'm')).to.be.closeTo(v, 0.16);
          expect(parseMeasure(words.formatTemperature(v, units), 'temperature', '°C')).to.be.closeTo(v, 0.06);
          expect(parseMeasure(words.formatSpeed(v, units), 'speed', 'm/s')).to.be.closeTo(v, 0.51);
        },
      ),
    );
  });
});
