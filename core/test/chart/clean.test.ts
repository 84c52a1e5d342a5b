import { expect } from 'chai';
import { cleanSoundings, levelAt, type CleanStep } from '../../src/chart';
import { tableOf } from '../support/clean';
import { makeSoundedWater, survey } from '../support/sounded-water';

const water = makeSoundedWater(5, { width: 900, height: 700 });
const stepOf = (steps: CleanStep[], name: CleanStep['name']): CleanStep => steps.find((s) => s.name === name)!;
/** Soundings that are off by more than a boat would bear. */
const wrong = (depth: ArrayLike<number>, truth: ArrayLike<number>, left?: Uint8Array): number => {
  let n = 0;
  for (let i = 0; i < depth.length; i++) if (!left?.[i] && Math.abs(depth[i] - truth[i]) > 0.3 + 0.25 * truth[i]) n++;
  return n;
};

describe('cleaning of soundings', () => {
  it('leaves spikes out, brings second echoes back, and leaves nearly all good soundings alone', () => {
    const run = survey(water, { seed: 2, spacing: 25, spikes: 0.01, doubles: 4 });
    const before = wrong(run.depth, run.truth);
    const cleaned = cleanSoundings(tableOf(run));
    expect(before).to.be.above(80);
    // What is left is a second echo in less than a metre of water, or one that lasted through a turn.
    expect(wrong(cleaned.depth, run.truth, cleaned.left)).to.be.at.most(before * 0.15);
    expect(stepOf(cleaned.steps, 'second echo').changed).to.be.above(15);
    const dropped = cleaned.left.reduce((sum, v) => sum + v, 0);
    expect(dropped).to.be.below(run.x.length * 0.025);
  });
  it('takes the slopes of a track with few fixes for what they are', () => {
    // Over a bank and back, 15 m between soundings: the depth doubles and halves, and no echo did it.
    const n = 240;
    const depth = Float32Array.from({ length: n }, (_, i) => 5 - 3.6 * Math.cos((i / 12) * 2 * Math.PI) * (i % 24 < 12 ? 1 : 0.4));
    const table = {
      time: Float64Array.from({ length: n }, (_, i) => i * 6000),
      x: Float64Array.from({ length: n }, (_, i) => i * 15),
      y: new Float64Array(n),
      depth,
      hardness: new Float32Array(n).fill(NaN),
      temperature: new Float32Array(n).fill(NaN),
      survey: new Int32Array(n),
    };
    expect(stepOf(cleanSoundings(table).steps, 'second echo').changed).to.equal(0);
  });
  it('finds the lag between position and depth from opposite passes, and none where there is none', () => {
    for (const lag of [0, 1.2, 2.4]) {
      const run = survey(water, { seed: 3, spacing: 25, lag });
      const { x, y, steps } = cleanSoundings(tableOf(run));
      const words = stepOf(steps, 'time lag').words;
      const found = Number(/by (\d+\.\d) s/.exec(words)?.[1] ?? 0);
      expect(found, words).to.be.closeTo(lag, 0.35);
      // Shifted back, the depth at a place is the depth of that place.
      let [sum, n] = [0, 0];
      for (let i = 200; i < x.length; i += 7) {
        sum += Math.abs(water.depth(x[i], y[i]) - run.truth[i]);
        n++;
      }
      expect(sum / n).to.be.below(0.12);
    }
  });
  it('leaves out fixes that leap', () => {
    const run = survey(water, { seed: 4, spacing: 40 });
    const leaps = [300, 900, 1500];
    for (const i of leaps) run.x[i] += 800;
    const { left, steps } = cleanSoundings(tableOf(run));
    for (const i of leaps) expect(left[i]).to.equal(1);
    expect(stepOf(steps, 'position jumps').leftOut).to.be.at.most(6);
  });
  it('changes nothing of the table, and a step that is off does nothing', () => {
    const run = survey(water, { seed: 2, spacing: 40, spikes: 0.01, lag: 1.5 });
    const table = tableOf(run);
    const off = cleanSoundings(table, { jumps: false, doubles: false, spikes: false, lag: false, level: false });
    expect(off.depth).to.deep.equal(table.depth);
    expect([...off.x]).to.deep.equal([...run.x]);
    expect(off.steps.every((s) => s.leftOut === 0 && s.changed === 0)).to.equal(true);
    cleanSoundings(table);
    expect([...table.depth]).to.deep.equal([...Float32Array.from(run.depth)]);
  });
  it('adds the depth of the transducer, and corrects for the speed of sound', () => {
    const run = survey(water, { seed: 2, spacing: 60 });
    const table = { ...tableOf(run), temperature: new Float32Array(run.x.length).fill(10) };
    const settings = { jumps: false, doubles: false, spikes: false, lag: false, level: false };
    const deeper = cleanSoundings(table, { ...settings, transducer_m: 0.4 });
    expect(deeper.depth[100] - table.depth[100]).to.be.closeTo(0.4, 1e-4);
    // A unit that reckons with 1500 m/s in water of 10 °C (1447.3 m/s) reads 3.6 % too deep.
    const slower = cleanSoundings(table, { ...settings, assumed_sound_ms: 1500 });
    expect(slower.depth[100] / table.depth[100]).to.be.closeTo(1447.3 / 1500, 1e-4);
  });
});

describe('level of the day', () => {
  const hours = (h: number): number => h * 3_600_000;
  it('runs straight between readings of a lake, and says nothing far from any', () => {
    const readings = [
      { at: 0, level: 0.2 },
      { at: hours(10), level: 0.6 },
    ];
    expect(levelAt(readings, hours(5))).to.be.closeTo(0.4, 1e-9);
    expect(levelAt([], hours(5))).to.be.NaN;
  });
  it('follows the tide between low and high water: slow at both, fast between', () => {
    const tide = [
      { at: 0, level: -1 },
      { at: hours(6), level: 1 },
    ];
    expect(levelAt(tide, hours(3), true)).to.be.closeTo(0, 1e-9);
    // A third of the time up from low water, a quarter of the range: (1 − cos 60°) / 2.
    expect(levelAt(tide, hours(2), true)).to.be.closeTo(-1 + 2 * 0.25, 1e-9);
  });
  it('brings surveys at different levels on to one datum', () => {
    const run = survey(water, { seed: 2, spacing: 60 });
    const high = tableOf(run);
    const raised = { ...high, depth: high.depth.map((d) => d + 0.8) };
    const at = (level: number): { at: number; level: number }[] => [{ at: run.time[0], level }];
    const only = { jumps: false, doubles: false, spikes: false, lag: false };
    const a = cleanSoundings(high, only, { levels: at(0.001), altitude: null, tidal: false, salinity: 0 });
    const b = cleanSoundings(raised, only, { levels: at(0.801), altitude: null, tidal: false, salinity: 0 });
    expect(b.depth[50]).to.be.closeTo(a.depth[50], 1e-3);
  });
});
