import { expect } from 'chai';
import fc from 'fast-check';
import { distance } from '@restless-shoal/core/geo';
import { LiveNmea, readSentence, type BoatNews, type Sentence } from '@restless-shoal/core/formats';
import { sentencesOf } from '../src/devices';

/** What a listener makes of a moment's sentences. */
function heard(sentences: string[]): BoatNews {
  const nmea = new LiveNmea();
  const said = (text: string, now: number): BoatNews | null => nmea.take(readSentence(text) as Sentence, now);
  // Depth and heading of the same moment follow the position: the next one carries them, without a sounder after two seconds.
  sentences.forEach((text) => said(text, 0));
  return said(sentences[0], 2000)!;
}

describe('the sentences of a simulated boat', () => {
  it('say where it is anywhere on earth, to a hand’s breadth, with course, speed and depth', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -89.9, max: 89.9, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: 0, max: 359.99, noNaN: true }),
        fc.double({ min: 0, max: 25, noNaN: true }),
        fc.double({ min: 0.5, max: 200, noNaN: true }),
        (latitude, longitude, course, speed, depth) => {
          const boat = heard(sentencesOf(new Date(Date.UTC(2026, 4, 2, 6, 7, 8, 90)), { latitude, longitude }, course, speed, depth));
          expect(distance(boat, { latitude, longitude })).to.be.below(0.1);
          expect(boat.course).to.be.closeTo(course, 0.006);
          expect(boat.speed).to.be.closeTo(speed, 0.001);
          expect(boat.depth).to.be.closeTo(depth, depth < 0.4 ? 0.5 : 0.006);
        },
      ),
      // Just under a whole degree, where minutes round up to sixty.
      { examples: [[47.9999999999, -34.9999999999, 0, 2, 6]] },
    );
  });
  it('say no depth where none is known', () => {
    const sentences = sentencesOf(new Date(), { latitude: 48, longitude: -34 }, 90, 2, null);
    expect(sentences.some((s) => s.includes('DPT'))).to.equal(false);
    expect(heard(sentences).depth).to.equal(null);
  });
});
