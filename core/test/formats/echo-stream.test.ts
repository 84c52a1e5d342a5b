import { expect } from 'chai';
import fc from 'fast-check';
import { readEcho, writeEcho, type Echo } from '../../src/formats';

const bytes = fc.uint8Array({ minLength: 2, maxLength: 300 });
const listened = { range: fc.double({ min: 1, max: 200, noNaN: true }), transducerDepth: fc.double({ min: 0, max: 5, noNaN: true }) };

describe('the stream of echoes', () => {
  it('is read as it was written', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.record({ view: fc.constant('sounder' as const), ...listened, beam: fc.constant(20), levels: bytes }),
          fc
            .record({ view: fc.constant('side-scan' as const), ...listened, port: bytes })
            .map((e) => ({ ...e, starboard: Uint8Array.from(e.port).reverse() })),
          fc
            .record({
              view: fc.constant('forward-facing' as const),
              ...listened,
              sector: fc.constant(20),
              bearing: fc.constant(-15),
              rows: fc.constant(2),
            })
            .map((e) => ({ ...e, levels: Uint8Array.from({ length: 40 }, (_, i) => i * 6) })),
        ),
        (echo) => void expect(readEcho(writeEcho(echo as Echo))).to.deep.equal(echo),
      ),
    );
  });
  it('takes what is left out as usual, and passes over what it does not know', () => {
    expect(readEcho('{"view":"sounder","range_m":12,"levels":"AAECAw==","gain":4}')).to.deep.equal({
      view: 'sounder',
      range: 12,
      transducerDepth: 0,
      beam: 20,
      levels: Uint8Array.from([0, 1, 2, 3]),
    });
  });
  it('says what is wrong with a line', () => {
    for (const [line, why] of [
      ['{"view":"sounder"', 'no JSON'],
      ['[1]', 'no object'],
      ['null', 'no object'],
      ['{"view":"from above","range_m":10}', 'view must be'],
      ['{"view":"sounder","range_m":0,"levels":"AAAA"}', 'range_m must be from'],
      ['{"view":"sounder","range_m":"12","levels":"AAAA"}', 'range_m must be from'],
      ['{"view":"sounder","range_m":12}', 'levels is missing'],
      ['{"view":"sounder","range_m":12,"levels":"A"}', 'levels is no base64'],
      ['{"view":"side-scan","range_m":12,"port":"AAAA","starboard":"AAAAAAAA"}', 'differ in length'],
      ['{"view":"forward-facing","range_m":12,"rows":7,"levels":"AAAA"}', 'shared out over rows'],
    ])
      expect(readEcho(line), line).to.be.a('string').that.includes(why);
  });
});
