import { expect } from 'chai';
import fc from 'fast-check';
import { coverOfWaypoint, emptyReport, gpxOf, readGpx, type Waypoint } from '../../src/formats';

const of = (words: string): string => {
  const { kind, cover } = coverOfWaypoint({ line: 1, latitude: 48, longitude: -34, name: null, words, depth: null, time: null });
  return cover ? `${kind} ${cover}` : kind;
};

describe('the words of a waypoint', () => {
  it('say what it is, one or many, in any case; what nothing is known of is a mark', () => {
    for (const [words, is] of [
      ['Standing timber', 'cover timber'],
      ['3 sunken TREES off the point', 'cover timber'],
      ['logs', 'cover timber'],
      ['old dock, east end', 'cover dock'],
      ['brushpile 4', 'cover brush'],
      ['Boulders 3 m', 'cover rock'],
      ['weedline', 'weed weed'],
      ['weeds to 4 m', 'weed weed'],
      ['Reeds', 'weed weed'],
      ['lily pads', 'weed weed'],
      ['hard', 'hard'],
      ['Stumps just under!', 'hazard'],
      ['shoal', 'hazard'],
      ['boat ramp', 'access'],
      ['Harbor', 'access'],
      // Words within other words say nothing.
      ['Woodland bay', 'mark'],
      ['logged 14 May', 'mark'],
      ['Grassmere', 'mark'],
      ['hardly anything', 'mark'],
      ['good bite here', 'mark'],
      ['', 'mark'],
    ])
      expect(of(words), words).to.equal(is);
  });
  it('that warn go before what it is made of: a stump is a hazard before it is timber', () =>
    expect(of('stump, timber around')).to.equal('hazard'));
  it('and its depth come back from a file that was written, whatever the words hold', async () => {
    const anyText = fc.string({ unit: fc.constantFrom(...'ab Z9<>&"\'.:é–'), minLength: 1, maxLength: 40 }).map((t) => t.trim() || 'x');
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            latitude: fc.double({ min: -80, max: 80, noNaN: true }),
            longitude: fc.double({ min: -179, max: 179, noNaN: true }),
            name: anyText,
            type: fc.constantFrom('cover', 'plan', 'contact'),
            depth: fc.option(fc.double({ min: 0.1, max: 90, noNaN: true })),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        async (places) => {
          const bytes = new TextEncoder().encode(gpxOf('Plan <1> & more', places));
          const report = emptyReport('plan.gpx', 'cover');
          const read: Waypoint[] = [];
          for await (const rows of readGpx([bytes], report, read)) expect(rows, 'soundings').to.deep.equal([]);
          expect(report.bad.first).to.deep.equal([]);
          expect(read.map((w) => w.name)).to.deep.equal(places.map((p) => p.name));
          read.forEach((w, k) => {
            expect(w.latitude).to.be.closeTo(places[k].latitude, 1e-6);
            expect(w.longitude).to.be.closeTo(places[k].longitude, 1e-6);
            if (places[k].depth === null) expect(w.depth).to.equal(null);
            else expect(w.depth).to.be.closeTo(places[k].depth!, 0.051);
          });
        },
      ),
    );
  });
});
