import { expect } from 'chai';
import { cleanSoundings, emptyChart } from '../../src/chart';
import { conditionsFromLog, dayFor, strategyPlans, waterYearOf, windowOn, type Day, type WaterFrame } from '../../src/forecast';
import { FormatError, readTideTable } from '../../src/formats';
import { formsLayers } from '../../src/lake';
import { readDepthRule } from '../../src/species';
import { levelsAbout, NO_TIDE, readTide, SIMULATED_TIDE, tideOf, tideState, type TideRecord } from '../../src/tide';
import { tableOf } from '../support/clean';
import { conditions, frame, zander } from '../support/planted-log';
import { makeSoundedWater, survey } from '../support/sounded-water';

const HOUR = 3_600_000;

describe('soundings reduced by the tide', () => {
  const water = makeSoundedWater(3);
  const run = survey(water, { noise: 0.05, spacing: 60 });
  const tide = tideOf(SIMULATED_TIDE)!;
  const flooded = { ...run, depth: run.depth.map((d, i) => d + tide.height(run.time[i])) };
  const table = tableOf(flooded);
  /** Root of the mean square of what is wrong with the depths. */
  const wrong = (levels: { at: number; level: number }[]): number => {
    const { depth, left } = cleanSoundings(table, { spikes: false, jumps: false, doubles: false, lag: false }, { levels, altitude: 0, tidal: true, salinity: 35 }); // prettier-ignore
    let [sum, n] = [0, 0];
    depth.forEach((d, i) => {
      if (left[i]) return;
      sum += (d - run.truth[i]) ** 2;
      n++;
    });
    return Math.sqrt(sum / n);
  };
  it('give the bottom again that was planted under 1.5 m and more of tide', () => {
    const heights = [...run.time].map((t) => tide.height(t));
    expect(Math.max(...heights) - Math.min(...heights)).to.be.above(1.5);
    expect(wrong(levelsAbout(tide, run.time))).to.be.below(0.15);
    expect(wrong([])).to.be.above(1);
  });
  it('by a typed table of its turns as well, where the tide is near to a cosine', () => {
    const turns = tideState(tide, run.time[0])!;
    expect(turns.last).to.not.equal(null);
    const from = run.time[0] - 14 * HOUR;
    const rows: TideRecord = { ...NO_TIDE, turns: [] };
    for (let at = from, before = NaN, now = tide.height(from); at < run.time.at(-1)! + 14 * HOUR; at += 60_000) {
      const after = tide.height(at + 60_000);
      if ((now - before) * (after - now) < 0) rows.turns.push({ time: new Date(at).toISOString(), height_m: now });
      [before, now] = [now, after];
    }
    expect(wrong(levelsAbout(tideOf(rows)!, run.time))).to.be.below(0.15);
  });
});

describe('the level of a moment', () => {
  it('is that of the tide where one is known: a reading of this morning says nothing of now', () => {
    const at = new Date('2026-06-01T15:00:00Z');
    const read = [{ at: at.getTime() - 6 * HOUR, row: { water_level_m: 0.2 } as never }];
    const height = tideOf(SIMULATED_TIDE)!.height(at.getTime());
    expect(conditionsFromLog(read, at, frame).conditions.level).to.equal(0.2);
    const tidal = { ...frame, tide: SIMULATED_TIDE, levelBase: 3 };
    const { conditions } = conditionsFromLog(read, at, tidal);
    expect(conditions.level).to.be.closeTo(3 + height, 1e-9);
    expect(dayFor(conditions, tidal).level).to.be.closeTo(height, 1e-9);
    // A table that says nothing of the moment leaves the reading.
    const table = { ...NO_TIDE, turns: [{ time: '2020-01-01T00:00:00Z', height_m: 1 }, { time: '2020-01-01T06:00:00Z', height_m: 4 }] }; // prettier-ignore
    expect(conditionsFromLog(read, at, { ...frame, tide: table }).conditions.level).to.equal(0.2);
  });
});

describe('a coast', () => {
  const coast = { ...frame, deepest: 30, lengthKm: 8, kind: 'coast', rule: readDepthRule(null, 'coast') };
  const lake = { ...coast, kind: 'lake', rule: readDepthRule(null, 'lake') };
  it('is mixed the year round: no thermocline', () => {
    const summer = conditions({ at: new Date('2026-08-15T12:00:00Z') });
    expect(dayFor(summer, lake).column.thermocline).to.not.equal(null);
    expect(dayFor(summer, coast).column.thermocline).to.equal(null);
    expect(formsLayers(waterYearOf(coast))).to.equal(false);
  });
  it('has no light rule of a lake, however dim', () => {
    const dim = conditions({ at: new Date('2026-04-15T12:00:00Z'), surface: 9, secchi: 0.8 });
    const edge = (f: typeof coast): string => windowOn(zander, dayFor(dim, f)).bottomReason.code;
    expect(edge(lake)).to.equal('window.light');
    expect(edge(coast)).to.not.equal('window.light');
  });
});

describe('a coast of which no tide is known', () => {
  const on = (more: Partial<WaterFrame>): Day => dayFor(conditions(), { ...frame, ...more });
  it('is a coast all the same: by its kind, as a lake with a tide is one', () => {
    expect(on({ kind: 'coast' }).sort).to.equal('coast');
    expect(on({ kind: 'lake', tide: SIMULATED_TIDE }).sort).to.equal('coast');
    expect(on({ kind: 'river' }).sort).to.equal('river');
    expect(on({ kind: 'reservoir' }).sort).to.equal('lake');
    expect(on({ kind: null }).sort).to.equal('lake');
  });
  it('says reef and wreck, not timber, in what the strategies suggest', () => {
    const codes = (kind: string): string[] =>
      strategyPlans(zander, on({ kind }), emptyChart(32625, [500_000, 5_300_000]).cells).map((p) => p.says.code);
    expect(codes('coast')).to.include.members(['plan.cover.coast', 'plan.structure.coast']);
    expect(codes('lake')).to.not.include('plan.cover.coast');
  });
});

describe('a table of tides', () => {
  it('is of constants, of high and low waters, or of the stream, by its columns; the other parts stay', async () => {
    const one = await readTideTable('constituent;amplitude_m;phase_deg\nZ0;2,4;\nM2;1,52;131\nX77;0.2;10\nS2;0.5;nothing\nm2;1;1\n');
    expect(one).to.deep.include({ part: 'constants', rows: 1 });
    expect(one.tide).to.deep.equal({ ...NO_TIDE, mean_m: 2.4, constants: [{ name: 'M2', amplitude_m: 1.52, phase_deg: 131 }] });
    expect(one.faults.map(({ line, column, reason }) => `${line} ${column} ${reason}`)).to.deep.equal([
      '4 constituent unknown',
      '5 phase_deg number',
      '6 constituent twice',
    ]);
    const stream = await readTideTable('hour,set_deg,springs_ms,neaps_ms\n-3,70,1.1,0.6\n3,250,1.0,0.5\n', one.tide);
    expect(stream.tide.constants).to.deep.equal(one.tide.constants);
    expect(stream.tide.stream.length).to.equal(2);
    const turns = await readTideTable('height_m,time\n4.2,2026-06-01T01:00:00+02:00\n1.0,2026-06-01T07:12Z\n', stream.tide);
    expect(turns.tide).to.deep.include({ constants: [], stream: stream.tide.stream });
    expect(turns.tide.turns[0]).to.deep.equal({ time: '2026-05-31T23:00:00.000Z', height_m: 4.2 });
    const flow = await readTideTable(
      'constituent,east_ms,east_phase_deg,north_ms,north_phase_deg\nM2,0.8,100,0.3,190\nZ0,0,0,-0.1,0\nXX9,1,1,1,1\n',
      stream.tide,
    );
    expect(flow.tide.stream_constants!.map((c) => c.name)).to.deep.equal(['M2', 'Z0']);
    expect(flow.faults.map((f) => [f.line, f.reason])).to.deep.equal([[4, 'unknown']]);
    expect(flow.tide.stream).to.deep.equal(stream.tide.stream);
    for (const { tide } of [one, stream, turns, flow]) expect(readTide(tide)).to.deep.equal(tide);
  });
  it('that is none says what it would need', async () => {
    for (const text of ['', 'a,b\n1,2\n', 'constituent,amplitude_m,phase_deg\nX99,1,2\n']) {
      let told: unknown = null;
      try {
        await readTideTable(text);
      } catch (error) {
        told = error;
      }
      expect(told, text).to.be.instanceOf(FormatError);
    }
    expect(readTide({ mean_m: 0 })).to.equal(null);
    expect(readTide(null)).to.equal(null);
  });
});
