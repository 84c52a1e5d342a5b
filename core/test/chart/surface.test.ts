import { expect } from 'chai';
import { buildChart, calibrateHardness } from '../../src/chart';
import { Raster, type Point } from '../../src/geo';
import { cleanedOf } from '../support/clean';
import { makeSoundedWater, survey, type Survey } from '../support/sounded-water';
import { interpolateTriangles } from '../support/triangulate';

const only = (run: Survey, keep: (line: number) => boolean): Survey => {
  const at = [...run.x.keys()].filter((i) => keep(run.line[i]));
  const column = (values: Float64Array): Float64Array => Float64Array.from(at, (i) => values[i]);
  return {
    time: column(run.time),
    x: column(run.x),
    y: column(run.y),
    depth: column(run.depth),
    hardness: column(run.hardness),
    truth: column(run.truth),
    line: Int32Array.from(at, (i) => run.line[i]),
  };
};

describe('the surface between the passes', () => {
  it('tells passes held back as well as triangles between clean soundings do, though it gets spikes; better than the nearest sounding', () => {
    const water = makeSoundedWater(21, { width: 1000, height: 800 });
    const dirty = survey(water, { seed: 21, spacing: 25, spikes: 0.01, doubles: 3 });
    const clean = survey(water, { seed: 21, spacing: 25 });
    const held = (line: number): boolean => line % 5 === 2;
    const chart = buildChart(32625, water.rings, cleanedOf(only(dirty, (l) => !held(l))), { size: 5 });
    const known = only(clean, (l) => !held(l));
    const { x0, y0, size, width, height } = chart.depth;
    const triangles = new Raster(x0, y0, size, width, height);
    interpolateTriangles(Float64Array.from([...known.x].flatMap((x, i) => [x, known.y[i]])), known.depth, triangles);
    const truth = only(clean, held);
    let [ours, theirs, nearest, n] = [0, 0, 0, 0];
    for (let i = 0; i < truth.x.length; i += 3) {
      const [a, b] = [chart.depth.at(truth.x[i], truth.y[i]), triangles.at(truth.x[i], truth.y[i])];
      if (Number.isNaN(a) || Number.isNaN(b)) continue;
      let [best, near] = [Infinity, 0];
      for (let k = 0; k < known.x.length; k++) {
        const d = (known.x[k] - truth.x[i]) ** 2 + (known.y[k] - truth.y[i]) ** 2;
        if (d < best) [best, near] = [d, k];
      }
      ours += (a - truth.truth[i]) ** 2;
      theirs += (b - truth.truth[i]) ** 2;
      nearest += (known.depth[near] - truth.truth[i]) ** 2;
      n++;
    }
    expect(n).to.be.above(600);
    expect(Math.sqrt(ours / n)).to.be.at.most(Math.sqrt(theirs / n));
    expect(Math.sqrt(ours / n)).to.be.below(0.75 * Math.sqrt(nearest / n));
  }).timeout(20_000);

  it('does not reach through land: each side of a spit keeps its own depth', () => {
    // Two basins, 12 m and 4 m deep, on either side of a spit 20 m wide that nobody sounded across.
    const shore: Point[] = [
      [0, 0],
      [190, 0],
      [190, 360],
      [210, 360],
      [210, 0],
      [400, 0],
      [400, 400],
      [0, 400],
    ];
    const [x, y, depth]: number[][] = [[], [], []];
    for (let py = 40; py < 320; py += 8)
      for (const px of [60, 100, 140, 260, 300, 340]) {
        x.push(px);
        y.push(py);
        depth.push(px < 200 ? 12 : 4);
      }
    const chart = buildChart(32625, [shore], { x, y, depth, hardness: x.map(() => NaN) }, { size: 5 });
    expect(chart.depth.at(300, 180)).to.be.closeTo(4, 0.15);
    expect(chart.depth.at(100, 180)).to.be.closeTo(12, 0.3);
    expect(chart.depth.at(200, 180)).to.be.NaN;
    expect(chart.depth.at(227, 180)).to.be.below(4.3);
  });
  it('knows where it knows little: the error it expects is small on a pass and grows with the distance', () => {
    const water = makeSoundedWater(6, { width: 700, height: 500 });
    const run = survey(water, { seed: 6, spacing: 70 });
    const { quality } = buildChart(32625, water.rings, cleanedOf(run), { size: 5 });
    const at = (x: number): number => quality.at(x, 250);
    expect(at(35 + 3 * 70)).to.be.below(0.25);
    expect(at(35 + 3.5 * 70)).to.be.above(1.5 * at(35 + 3 * 70));
  });
});

describe('hardness of two rigs', () => {
  it('is brought on to one scale where their surveys overlap', () => {
    const [x, y, survey, truth]: number[][] = [[], [], [], []];
    for (let s = 0; s < 2; s++)
      for (let px = 0; px < 400; px += 5)
        for (let py = s * 60; py < 160 + s * 60; py += 15) {
          x.push(px + s);
          y.push(py + s);
          survey.push(s);
          truth.push(0.25 + 0.5 * (Math.sin(px / 50) > 0 ? 1 : 0));
        }
    // The second rig reads everything softer and flatter.
    const heard = Float32Array.from(truth, (h, i) => (survey[i] === 0 ? h : 0.1 + 0.6 * h));
    const off = (): number => heard.reduce((sum, h, i) => sum + Math.abs(h - truth[i]), 0) / heard.length;
    const before = off();
    expect(calibrateHardness(x, y, survey, heard)).to.be.above(0);
    expect(off()).to.be.below(0.25 * before);
  });
});
