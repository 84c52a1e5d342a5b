import { expect } from 'chai';
import fc from 'fast-check';
import {
  columnFor,
  courseOfLatitude,
  findLayers,
  oxygenAt,
  temperatureAt,
  tidyProfile,
  usualAt,
  waterYear,
  type ColumnInputs,
} from '../../src/lake';
import { defaultSpecies, seasonOf } from '../../src/species';

const day = (time: string): Date => new Date(`${time}T12:00:00Z`);
const lake = (latitude: number, time: string, surface: number, more: Partial<ColumnInputs> = {}) =>
  columnFor({ surface, at: day(time), latitude, maxDepth: 20, secchi: 2, altitude: 100, lengthKm: 3, ...more });
const bottom = (column: ReturnType<typeof columnFor>): number => column.samples[column.samples.length - 1].temperature;
const year = (latitude: number, maxDepth = 20, kind: string | null = null) =>
  waterYear(courseOfLatitude(latitude), { maxDepth, lengthKm: 3, kind });

describe('water of other climates than one', () => {
  it('is mixed in the winter of places that never freeze', () => {
    for (const [latitude, time, surface] of [
      [32, '2026-01-15', 11],
      [-36, '2026-07-15', 12],
      [28, '2026-01-20', 17],
    ] as const) {
      const column = lake(latitude, time, surface);
      expect(column.thermocline, `${latitude}°`).to.equal(null);
      expect(bottom(column), `${latitude}°`).to.be.closeTo(surface, 1);
    }
  });
  it('is warm and short of oxygen at the bottom of a tropical lake', () => {
    const column = lake(-3, '2026-03-10', 28, { maxDepth: 40 });
    expect(bottom(column)).to.be.within(23, 28);
    expect(oxygenAt(column.samples, 38)!).to.be.below(8);
  });
  it('does not form layers where it flows', () => {
    const pool = lake(50, '2026-08-10', 21, { maxDepth: 16, kind: 'river' });
    expect(pool.thermocline).to.equal(null);
    expect(bottom(pool)).to.equal(21);
    expect(oxygenAt(pool.samples, 16)!).to.be.above(7);
    expect(lake(50, '2026-08-10', 21, { maxDepth: 16, kind: 'reservoir' }).thermocline).to.not.equal(null);
  });
  it('mixes as often as its climate, depth and own profiles say', () => {
    expect(year(50).mixing).to.equal('dimictic');
    expect(year(33).mixing).to.equal('warm monomictic');
    expect(year(50, 3).mixing).to.equal('polymictic');
    expect(year(75).mixing).to.equal('cold monomictic');
    expect(year(-5, 400).mixing).to.equal('meromictic');
    expect(year(50, 20, 'a slow River').mixing).to.equal('flowing');
    // A spring profile of one temperature without oxygen at the bottom: the lake never mixes, and its bottom has none in April either.
    const sealed = {
      at: day('2025-04-10'),
      samples: [0, 5, 10, 15, 20].map((depth) => ({ depth, temperature: 5, oxygen: depth > 12 ? 0.2 : 11 })),
    };
    expect(oxygenAt(lake(50, '2026-07-10', 21, { profiles: [sealed] }).samples, 20)!).to.be.below(0.5);
  });
  it('is near 30 °C at the surface in the summers of 28 to 32°N, and follows its altitude', () => {
    const july = (latitude: number, altitude = 0) => usualAt(courseOfLatitude(latitude, altitude), Date.UTC(2026, 6, 27), latitude);
    for (const latitude of [28, 30, 32]) expect(july(latitude)).to.be.within(28.5, 31);
    expect(july(40) - july(40, 2000)).to.be.within(5, 10);
  });
  it('is a column anywhere: warm over cold or frozen over, its layer in the water, oxygen no more than the water holds', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -70, max: 70, noNaN: true }),
        fc.integer({ min: 0, max: 364 }),
        fc.double({ min: -8, max: 8, noNaN: true }),
        fc.double({ min: 2, max: 300, noNaN: true }),
        fc.constantFrom(null, 'river', 'lake'),
        (latitude, doy, off, maxDepth, kind) => {
          const at = new Date(Date.UTC(2026, 0, 1 + doy, 12));
          const surface = Math.min(34, Math.max(0, usualAt(courseOfLatitude(latitude), at.getTime(), latitude) + off));
          const { samples, thermocline } = columnFor({ surface, at, latitude, maxDepth, secchi: 3, altitude: 0, lengthKm: 4, kind });
          expect(samples[0].temperature).to.be.closeTo(surface, 0.35);
          for (let k = 1; k < samples.length; k++)
            if (surface >= 3.9) expect(samples[k].temperature).to.be.at.most(samples[k - 1].temperature + 1e-9);
          for (const s of samples) expect(s.oxygen!).to.be.within(0, 15);
          if (thermocline) expect(thermocline.bottom).to.be.within(thermocline.depth, maxDepth);
        },
      ),
      { numRuns: 1500 },
    );
  });
});

describe('the film of a calm day', () => {
  const samples = tidyProfile(
    [[0, 25], [0.5, 22], [1, 20], [2, 20], [4, 19.8], [5.5, 19.5], [6.5, 14], [7.5, 10], [9, 9], [12, 8.5]].map(([depth, temperature]) => ({ depth, temperature })), // prettier-ignore
  );
  it('is told from the thermocline below it', () => {
    const { seasonal, diurnal } = findLayers(samples);
    expect(seasonal!.depth).to.be.within(5.5, 7);
    expect(diurnal!.bottom).to.be.closeTo(1, 0.01);
  });
  it('is no thermocline where the water below it is mixed, and a shallow layer under mixed water is one', () => {
    const calm = [25, 22.5, 20.2, 20, 20, 19.9, 19.9, 19.8, 19.8].map((temperature, depth) => ({ depth: depth * 0.75, temperature }));
    expect(findLayers(calm).seasonal).to.equal(null);
    expect(findLayers(calm).diurnal).to.not.equal(null);
    const shallow = [24, 24, 23.9, 19, 14, 12, 11.5, 11.4].map((temperature, depth) => ({ depth: depth * 0.8, temperature }));
    expect(findLayers(shallow).seasonal!.depth).to.be.within(1.6, 3.2);
    expect(findLayers(shallow).diurnal).to.equal(null);
  });
  it('is gone the next day, and the profile under it stands', () => {
    const next = columnFor({ surface: 22, at: day('2026-07-16'), latitude: 48, maxDepth: 12, secchi: 2, altitude: 0, lengthKm: 1, profile: { samples, at: day('2026-07-15') } }); // prettier-ignore
    for (const [depth, celsius] of [
      [2, 20],
      [4, 19.8],
      [5, 19.6],
      [9, 9],
    ])
      // prettier-ignore
      expect(temperatureAt(next.samples, depth), `${depth} m`).to.be.closeTo(celsius, 1.2);
    expect(next.thermocline!.depth).to.be.closeTo(6.4, 0.6);
  });
});

describe('a profile shorter than the lake', () => {
  const samples = [22, 22, 21.8, 21.5].map((temperature, k) => ({ depth: k * 1.6, temperature, oxygen: 8.8 }));
  const column = lake(50, '2026-07-20', 22, { profile: { samples, at: day('2026-07-20') } });
  it('goes on as modelled, and says so', () => {
    expect(column.modelled).to.equal(false);
    expect([column.measuredTo, column.oxygenMeasuredTo]).to.deep.equal([samples[3].depth, samples[3].depth]);
    expect(bottom(column)).to.be.below(14);
    expect(temperatureAt(column.samples, samples[3].depth)).to.equal(21.5);
    expect(column.thermocline!.depth).to.be.above(4.8);
    expect(column.spread).to.be.above(1);
  });
  it('is the whole column where it reaches the bottom', () => {
    const whole = lake(50, '2026-07-20', 22, { maxDepth: 5, profile: { samples, at: day('2026-07-20') } });
    expect(whole.samples).to.deep.equal(samples);
  });
});

describe('the stages of a year', () => {
  const zander = defaultSpecies.find((s) => s.name === 'zander')!;
  const bass = defaultSpecies.find((s) => s.name === 'largemouth bass')!;
  const stage = (s: typeof zander, latitude: number, time: string, surface: number, kind: string | null = null) =>
    seasonOf(s, { at: day(time), surface, readings: [4, 8, 12].map((d) => ({ at: day(time).getTime() - d * 86_400_000, surface: surface + d * 0.1 })), latitude, course: courseOfLatitude(latitude), year: year(latitude, 20, kind) }); // prettier-ignore
  it('have a turnover when the surface meets the deep water after a season of layers, and not else', () => {
    expect(stage(bass, 31, '2026-11-20', 17).stage).to.equal('turnover');
    expect(stage(zander, 50, '2026-05-20', 9).stage).to.not.equal('turnover');
    for (const s of stage(zander, 50, '2026-10-10', 13, 'river').year) expect(s.stage).to.not.equal('turnover');
  });
  it('go round: after late autumn comes winter, and winter began last year', () => {
    const late = stage(zander, 50, '2026-12-05', 5.5);
    expect(late.stage).to.equal('late autumn');
    expect(late.next!.stage).to.equal('winter');
    const january = stage(zander, 50, '2026-01-20', 2);
    expect(january.since).to.be.above(20);
  });
});
