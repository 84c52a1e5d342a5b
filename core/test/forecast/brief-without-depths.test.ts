import { expect } from 'chai';
import { emptyChart, hypsographOf, packChart, unpackChart, volumeBetween, waveHeights } from '../../src/chart';
import { cautions, dayFor, heatHypotheses, strategyPlans, waveBrief } from '../../src/forecast';
import { schmidtStability } from '../../src/lake';
import { defaultSpecies, likelyTarget } from '../../src/species';

const frame = { latitude: 52, longitude: 13, altitude: 30, deepest: 12, lengthKm: 1 };
const conditions = {
  at: new Date('2026-07-20T10:00:00Z'),
  surface: 24,
  trend: 0,
  secchi: 2,
  windFrom: 240,
  windSpeed: 5,
  level: null,
  levelTrend: null,
  thermoclineSet: null,
};
const [perch] = defaultSpecies.filter((s) => s.name === 'perch');

describe('a water of which no depth is known', () => {
  const chart = emptyChart(32633, [376_543, 5_806_789]);
  const day = dayFor(conditions, frame);
  it('is an empty chart that travels like any other', () => {
    const back = unpackChart(packChart(chart));
    expect({ cells: back.cells.count, soundings: back.soundings, epsg: back.epsg }).to.deep.equal({ cells: 0, soundings: 0, epsg: 32633 });
    expect(back.depth.x0).to.be.closeTo(376_543, 25);
  });
  it('is taken for a basin whose area falls evenly to nothing at the depth that is said', () => {
    const cone = hypsographOf(chart.cells, 12);
    expect(cone.area[0]).to.equal(1e6);
    expect(cone.area.at(-1)).to.equal(0);
    // Half of the cylinder round it.
    expect(volumeBetween(cone, 0, 12)).to.be.closeTo(6e6, 1);
    expect(schmidtStability(day.column.samples, cone)).to.be.above(10);
  });
  it('has strategies without a count of places, and cautions that say what is not worked out', () => {
    const plans = strategyPlans(perch, day, chart.cells);
    expect(plans).to.have.length(8);
    expect(plans.every((p) => p.places === null && p.says.code.startsWith('plan.'))).to.equal(true);
    expect(waveBrief(day, chart.cells)).to.equal(null);
    expect(cautions(perch, day, null)[0].says.code).to.equal('caution.waves.unknown');
    expect(heatHypotheses(perch, day, chart.cells).every((h) => h.places === null)).to.equal(true);
    expect(waveHeights(chart.cells, 240, 8, 6)).to.have.length(0);
  });
});

describe('the first target of a water', () => {
  it('is a fish of such waters, never the first of the alphabet', () => {
    const target = (kind: string | null, latitude: number): string => likelyTarget(defaultSpecies, { kind, latitude }).name;
    expect(target('lake', 60)).to.equal('perch');
    expect(target('reservoir', -20)).to.equal('largemouth bass');
    expect(target('coast', 50)).to.equal('sea bass');
    const first = [...defaultSpecies].map((s) => s.name).sort()[0];
    for (const kind of ['lake', 'river', 'coast', null])
      for (const latitude of [-60, 0, 60]) expect(target(kind, latitude)).to.not.equal(first);
    // A water with none of those.
    expect(
      likelyTarget(
        defaultSpecies.filter((s) => s.name === 'burbot'),
        { kind: null, latitude: 60 },
      ).name,
    ).to.equal('burbot');
  });
});
