import { expect } from 'chai';
import fc from 'fast-check';
import { readPosition } from '../../src/geo';

/** Ways in which units and people write a position, each with how near it says where that is, degrees. */
const WAYS: [name: string, write: (value: number, letters: string) => string, off: number][] = [
  ['decimal degrees', (v) => v.toFixed(6), 5.1e-7],
  ['decimal degrees and letters', (v, letters) => `${Math.abs(v).toFixed(5)}° ${letters[v < 0 ? 1 : 0]}`, 5.1e-6],
  [
    'degrees and minutes',
    (v, letters) => {
      const minutes = Math.round(Math.abs(v) * 60_000) / 1000;
      return `${Math.floor(minutes / 60)}°${(minutes % 60).toFixed(3)}′${letters[v < 0 ? 1 : 0]}`;
    },
    1e-5,
  ],
  [
    'letters before, no signs',
    (v, letters) => {
      const minutes = Math.round(Math.abs(v) * 60_000) / 1000;
      return `${letters[v < 0 ? 1 : 0]}${Math.floor(minutes / 60)} ${(minutes % 60).toFixed(3)}`;
    },
    1e-5,
  ],
  [
    'degrees, minutes and seconds',
    (v, letters) => {
      const seconds = Math.round(Math.abs(v) * 36_000) / 10;
      return `${Math.floor(seconds / 3600)}° ${Math.floor(seconds / 60) % 60}' ${(seconds % 60).toFixed(1)}" ${letters[v < 0 ? 1 : 0].toLowerCase()}`;
    },
    1.5e-5,
  ],
];

describe('a position typed by hand', () => {
  it('is read back as it was written, in every way that units write one', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -89.9, max: 89.9, noNaN: true }),
        fc.double({ min: -179.9, max: 179.9, noNaN: true }),
        fc.constantFrom(...WAYS),
        fc.constantFrom(' ', ', ', ';', '  '),
        (latitude, longitude, [name, write, off], between) => {
          const text = write(latitude, 'NS') + between + write(longitude, 'EW');
          const read = readPosition(text);
          expect(read, `${name}: ${text}`).to.not.equal(null);
          expect(read!.latitude, text).to.be.closeTo(latitude, off);
          expect(read!.longitude, text).to.be.closeTo(longitude, off);
        },
      ),
      { numRuns: 600 },
    );
  });
  it('goes by its letters where those say that longitude comes first', () =>
    expect(readPosition('34°30.000′W 48°15.000′N')).to.deep.equal({ latitude: 48.25, longitude: -34.5 }));
  it('is not guessed: a decimal comma, a sign against its letter, sixty minutes, a half that is missing, beyond the poles', () => {
    for (const text of [
      '48,25 -34,5',
      '48,25 N 34,5 W',
      '-48.2 S 34.5 W',
      '48 60.0 N 34 10 W',
      '48.5 10 N 34 10 W',
      '48 10 N 34.5 W',
      '48.2 34.5 W',
      '48.2 N 34.5 N',
      '48.2 N',
      '91, 10',
      '10, 181',
      '48 -10, 34 10',
      '48.2, 34.5, 12',
      '48.2 x 34.5',
      'somewhere',
      '1e5, 2',
      '- 48, 34',
      '',
    ])
      expect(readPosition(text), text).to.equal(null);
  });
  it('never is anything but a place on earth or none, whatever is typed', () => {
    const letter = fc.constantFrom(...'0123456789.,;-+ NSEWnsew°′″\'"−x');
    fc.assert(
      fc.property(fc.string({ unit: letter, maxLength: 30 }), (text) => {
        const read = readPosition(text);
        if (!read) return;
        expect(Math.abs(read.latitude)).to.be.at.most(90);
        expect(Math.abs(read.longitude)).to.be.at.most(180);
      }),
      { numRuns: 3000 },
    );
  });
});
