import { expect } from 'chai';
import { columnFor, courseOfLatitude, usualAt, usualCourse } from '../../src/lake';
import { defaultSpecies, depthWindow, seasonOf, type SeasonInputs } from '../../src/species';

const named = (name: string) => defaultSpecies.find((s) => s.name === name)!;
const inputs = (time: string, surface: number, more: Partial<SeasonInputs> = {}): SeasonInputs => ({
  at: new Date(time),
  surface,
  readings: [],
  latitude: 50,
  course: courseOfLatitude(50),
  ...more,
});

describe('the usual course of the surface', () => {
  it('follows the water’s own readings where there are enough', () => {
    const truth = (at: number): number => usualAt({ mean: 13, cosine: -10, sine: -5, readings: 0 }, at, 50);
    const readings = Array.from({ length: 60 }, (_, k) => ({
      at: Date.UTC(2025, 2, 1) + k * 5 * 86_400_000,
      surface: truth(Date.UTC(2025, 2, 1) + k * 5 * 86_400_000),
    }));
    const course = usualCourse(readings, 50);
    for (const month of [3, 5, 7, 9])
      expect(usualAt(course, Date.UTC(2026, month, 15), 50)).to.be.closeTo(truth(Date.UTC(2026, month, 15)), 1.2);
    expect(usualCourse([], 50)).to.deep.equal(courseOfLatitude(50));
  });
  it('is not bent by water under ice, which says no more than that there is ice', () => {
    const winters = Array.from({ length: 40 }, (_, k) => ({ at: Date.UTC(2025, 0, 5 + k), surface: 0.4 }));
    const july = Date.UTC(2026, 6, 27);
    expect(usualAt(usualCourse(winters, 60), july, 60)).to.be.closeTo(usualAt(courseOfLatitude(60), july, 60), 0.3);
    const mild = winters.map((r) => ({ ...r, surface: 5 }));
    expect(usualAt(usualCourse(mild, 60), mild[0].at, 60)).to.be.above(3);
  });
  it('swings less in the south, and hardly at the equator', () => {
    const swing = (latitude: number) => Math.hypot(courseOfLatitude(latitude).cosine, courseOfLatitude(latitude).sine);
    expect(swing(-40)).to.be.below(swing(40));
    expect(swing(0)).to.be.below(1.5);
    expect(usualAt(courseOfLatitude(-38), Date.UTC(2026, 0, 27), -38)).to.be.above(
      usualAt(courseOfLatitude(-38), Date.UTC(2026, 6, 27), -38) + 8,
    );
  });
});

describe('the season of a species', () => {
  it('is told apart rising and falling at the same temperature', () => {
    const spring = seasonOf(named('zander'), inputs('2026-05-10T12:00:00Z', 12.5));
    const autumn = seasonOf(named('zander'), inputs('2026-10-20T12:00:00Z', 12.5));
    expect(spring.stage).to.equal('spawning');
    expect(autumn.stage).to.equal('cooling');
    expect(seasonOf(named('arctic char'), inputs('2026-11-25T12:00:00Z', 5)).stage).to.equal('spawning');
    expect(seasonOf(named('zander'), inputs('2026-07-20T12:00:00Z', 20)).stage).to.equal('summer');
    expect(seasonOf(named('pike'), inputs('2026-01-20T12:00:00Z', 2)).stage).to.equal('winter');
  });
  it('needs a threshold to hold: one warm day is no spawning', () => {
    const reading = (day: number, surface: number) => ({ at: Date.UTC(2026, 3, day, 12), surface });
    const cold = [1, 5, 9, 12, 14].map((d) => reading(d, 6.5));
    expect(seasonOf(named('zander'), inputs('2026-04-15T12:00:00Z', 11.5, { readings: cold })).stage).to.not.equal('spawning');
    const warm = [1, 5, 9, 12, 14].map((d) => reading(d, 11.5));
    expect(seasonOf(named('zander'), inputs('2026-04-15T12:00:00Z', 11.5, { readings: warm })).stage).to.equal('spawning');
  });
  it('says that a level which moves fast may put spawning off, and only then', () => {
    const spring = (levelTrend: number) => seasonOf(named('zander'), inputs('2026-05-10T12:00:00Z', 12.5, { levelTrend })).putOff;
    expect(spring(-0.5)).to.equal(-0.5);
    expect(spring(0.1)).to.equal(null);
    expect(seasonOf(named('zander'), inputs('2026-08-10T12:00:00Z', 20, { levelTrend: -0.5 })).putOff).to.equal(null);
  });
  it('the ribbon of the year has no gap and never contradicts the stage of the day, on four waters, any day', () => {
    for (const latitude of [60, 48, 35, -40])
      for (const name of ['zander', 'largemouth bass', 'arctic char', 'pike'])
        for (let day = 0; day < 365; day += 9) {
          const at = new Date(Date.UTC(2026, 0, 1, 10) + day * 86_400_000);
          const course = courseOfLatitude(latitude);
          const season = seasonOf(named(name), {
            at,
            surface: usualAt(course, at.getTime(), latitude) + ((day * 7) % 5) - 2,
            readings: [],
            latitude,
            course,
          });
          const span = season.year.find((s) => season.today >= s.from && season.today <= s.to)!;
          expect(span.stage).to.equal(season.stage);
          expect(Math.max(0, season.today - season.since)).to.equal(span.from);
          expect(season.year[0].from).to.equal(0);
          season.year.forEach((s, k) => k && expect(s.from).to.equal(season.year[k - 1].to + 1));
          expect(season.year[season.year.length - 1].to).to.equal(364);
          if (season.next) expect(season.next.latest.getTime()).to.be.at.least(season.next.earliest.getTime());
        }
  });
});

describe('the depth window, on four waters through a year', () => {
  const waters = [
    { name: 'fertile reservoir', maxDepth: 20, secchi: 1.5, latitude: 48 },
    { name: 'clear deep cold lake', maxDepth: 60, secchi: 8, latitude: 60 },
    { name: 'shallow dirty lake', maxDepth: 4, secchi: 0.5, latitude: 50 },
    { name: 'southern lake', maxDepth: 25, secchi: 3.5, latitude: -40 },
  ];
  const columnOf = (water: (typeof waters)[number], at: Date) =>
    columnFor({
      surface: usualAt(courseOfLatitude(water.latitude), at.getTime(), water.latitude),
      at,
      latitude: water.latitude,
      maxDepth: water.maxDepth,
      secchi: water.secchi,
      altitude: 100,
      lengthKm: 4,
    });
  it('never reaches below its own stated limits', () => {
    for (const water of waters)
      for (const s of defaultSpecies)
        for (let day = 0; day < 365; day += 15) {
          const at = new Date(Date.UTC(2026, 0, 1, 12) + day * 86_400_000);
          const column = columnOf(water, at);
          const w = depthWindow(s, { column, secchi: water.secchi, maxDepth: water.maxDepth, sunHeight: 30 });
          expect(w.top).to.be.at.least(0);
          expect(w.bottom).to.be.at.most(water.maxDepth);
          if (!w.empty) expect(w.top).to.be.below(w.bottom);
          if (
            s.guild !== 'cold' &&
            s.place !== 'bottom' &&
            s.light !== 'shy' &&
            w.top < 1.9 + 4 * water.secchi &&
            (column.thermocline || water.secchi <= 3)
          )
            expect(w.bottom).to.be.at.most(2 + 4 * water.secchi + 1e-9);
        }
  });
  it('keeps zander above the thermocline of the fertile reservoir and char below that of the clear cold lake', () => {
    const summer = new Date('2026-07-25T12:00:00Z');
    const fertile = columnOf(waters[0], summer);
    const zander = depthWindow(named('zander'), { column: fertile, secchi: 1.5, maxDepth: 20, sunHeight: 50 });
    expect(zander.bottom).to.be.at.most(fertile.thermocline!.depth);
    const clear = columnOf(waters[1], summer);
    const char = depthWindow(named('arctic char'), { column: clear, secchi: 8, maxDepth: 60, sunHeight: 50 });
    expect(char.empty).to.equal(false);
    expect(char.bottom).to.be.above(clear.thermocline!.bottom);
  });
  it('at ice-out the water is mixed, nothing is sealed off, and spring spawners are before spawning', () => {
    const at = new Date('2026-04-02T12:00:00Z');
    const column = columnFor({ surface: 5, at, latitude: 58, maxDepth: 15, secchi: 2.5, altitude: 100, lengthKm: 2 });
    expect(column.thermocline).to.equal(null);
    expect(column.samples.every((s) => s.oxygen! > 8)).to.equal(true);
    const readings = [24, 27, 30].map((day) => ({ at: Date.UTC(2026, 2, day), surface: 4.8 }));
    const season = seasonOf(named('pike'), { at, surface: 5, readings, latitude: 58, course: courseOfLatitude(58) });
    expect(['early spring', 'before spawning']).to.include(season.stage);
    expect(season.next!.stage).to.be.oneOf(['before spawning', 'spawning']);
  });
  it('turnover takes the limit away where the water is clear', () => {
    const at = new Date('2026-11-05T12:00:00Z');
    const column = columnFor({ surface: 8.5, at, latitude: 55, maxDepth: 20, secchi: 3.6, altitude: 100, lengthKm: 4 });
    expect(column.thermocline).to.equal(null);
    expect(depthWindow(named('zander'), { column, secchi: 3.6, maxDepth: 20, sunHeight: -5 }).bottom).to.equal(20);
  });
});
