import { expect } from 'chai';
import fc from 'fast-check';
import { packTables, unpackTables } from '../../src/formats';

const COLUMNS = ['when', 'degrees', 'rough', 'name', 'twin', 'flag'] as const;

describe('tables in columns', () => {
  it('give back every value as it went in, what is not known included', () => {
    const maybe = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | null> => fc.option(of, { nil: null, freq: 3 });
    const row = fc.record({
      when: maybe(fc.integer({ min: 0, max: 4e12 })),
      degrees: maybe(fc.integer({ min: -1_800_000_000, max: 1_800_000_000 }).map((n) => n / 1e7)),
      rough: maybe(fc.double({ noNaN: true, noDefaultInfinity: true })),
      name: maybe(fc.oneof(fc.constantFrom('perch', 'zander'), fc.string())),
      flag: maybe(fc.boolean()),
    });
    fc.assert(
      fc.property(fc.array(row, { maxLength: 60 }), fc.array(row, { maxLength: 5 }), (rows, few) => {
        const twins = (list: typeof rows) => list.map((r) => ({ ...r, twin: r.name }));
        const read = unpackTables(packTables({ a: { columns: COLUMNS, rows: twins(rows) }, b: { columns: ['rough'], rows: few } }));
        // Of the two noughts only one is kept.
        const plain = (list: object[]): unknown => JSON.parse(JSON.stringify(list));
        expect(plain(read.a)).to.deep.equal(plain(twins(rows)));
        expect(plain(read.b)).to.deep.equal(plain(few.map(({ rough }) => ({ rough }))));
      }),
      { numRuns: 300, examples: [[[], []]] },
    );
  });
  it('are a small part of the same as JSON', () => {
    const rows = Array.from({ length: 5000 }, (_, i) => ({
      when: 1_767_225_600_000 + i * 61_000,
      degrees: 48.2 + i * 1e-5,
      name: i % 7 ? 'perch' : 'zander',
      flag: null,
    }));
    const packed = packTables({ marks: { columns: ['when', 'degrees', 'name', 'flag'], rows } });
    expect(packed.length).to.be.lessThan(JSON.stringify(rows).length / 4);
    expect(() => unpackTables(packed.slice(0, packed.length / 2))).to.throw(RangeError);
  });
});
