import { expect } from 'chai';
import { emptyReport, readCover, readOutline, readRecord, readWaterFile, type FileReport } from '@restless-shoal/core/formats';
import { RECORD_ORDER, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { tideOf } from '@restless-shoal/core/tide';
import { makeLogbook, REACH, SOUND, worldName } from '../src';

const made = makeLogbook({ seed: 4, trips: 10 });

async function rows(record: RecordName): Promise<{ rows: Row[]; report: FileReport }> {
  const report = emptyReport(`${record}.csv`, record);
  const out: Row[] = [];
  for await (const batch of readRecord(record, [new TextEncoder().encode(made.folder.get(`${record}.csv`)!)], report))
    out.push(...batch.map((r) => r.row));
  return { rows: out, report };
}

describe('the demo water and its log', () => {
  it('is the same for the same seed and another for another', () => {
    const again = makeLogbook({ seed: 4, trips: 10 });
    expect([...again.folder]).to.deep.equal([...made.folder]);
    expect(makeLogbook({ seed: 6, trips: 1 }).folder.get('outline.geojson')).to.not.equal(made.folder.get('outline.geojson'));
    expect(made.world.name).to.equal(worldName(4));
  });
  it('writes files that are read without a bad row', async () => {
    // Photos, spots and gear are not part of it.
    const written = RECORD_ORDER.filter((record) => made.folder.has(`${record}.csv`));
    expect(written).to.have.length(8);
    for (const record of written) {
      const { report } = await rows(record);
      expect(report.bad.first, record).to.deep.equal([]);
      expect(report.unknownColumns, record).to.deep.equal([]);
      expect(report.used, record).to.be.above(0);
    }
    const report = emptyReport('cover.geojson', 'cover');
    readCover(made.folder.get('cover.geojson')!, 'cover.geojson', report);
    expect(report.bad.count).to.equal(0);
    expect(readOutline(made.folder.get('outline.geojson')!, 'o').type).to.equal('Polygon');
    expect(readWaterFile(made.folder.get('water.json')!, 'water.json').water.name).to.equal(made.world.name);
  });
  it('lies in the open ocean and logs what a guide would: blanks, the unfishable, packs seen twice, fish misjudged', async () => {
    const contacts = (await rows('contacts')).rows;
    const stops = (await rows('stops')).rows;
    for (const c of contacts) {
      expect(Number(c.latitude)).to.be.within(46, 50);
      expect(Number(c.longitude)).to.be.within(-37, -31);
    }
    expect(contacts.filter((c) => c.same_as !== null).length).to.be.above(5);
    expect(new Set(contacts.filter((c) => c.kind === 'fish').map((c) => c.species)).size).to.be.above(2);
    expect(stops.filter((s) => s.outcome === 'nothing').length).to.be.above(3);
    expect((await rows('responses')).rows.some((r) => r.response === 'landed')).to.equal(true);
  });
  it('has fish that keep to favourite places and to the water above the poor layer', () => {
    const { fish } = made;
    const t = Date.UTC(2025, 6, 20, 12);
    const w = fish.climate.on(t);
    expect(w.thermocline).to.not.equal(null);
    const zander = fish.rules.find((kind) => kind.name === 'zander')!;
    const want = fish.wants(zander, { ...fish.setting(t, 30), rising: true });
    const deep = fish.ground.map((g, i) => [g.depth, want[i]]).filter(([d]) => d > 14);
    const good = fish.ground.map((g, i) => [g.depth, want[i]]).filter(([d]) => d > 4.5 && d < 8);
    const mean = (list: number[][]): number => list.reduce((s, [, v]) => s + v, 0) / list.length;
    expect(mean(good)).to.be.above(mean(deep) * 10);
  });
});

describe('the demo’s sound and reach', () => {
  const sound = makeLogbook({ seed: 4, trips: 4, scenario: SOUND });
  const river = makeLogbook({ seed: 4, trips: 4, scenario: REACH });
  it('write files that are read without a bad row', async () => {
    for (const { folder } of [sound, river]) {
      const water = readWaterFile(folder.get('water.json')!, 'water.json').water;
      expect(['coast', 'river']).to.include(water.kind);
      for (const record of RECORD_ORDER.filter((r) => folder.has(`${r}.csv`))) {
        const report = emptyReport(`${record}.csv`, record);
        for await (const _ of readRecord(record, [new TextEncoder().encode(folder.get(`${record}.csv`)!)], report));
        expect(report.bad.first, record).to.deep.equal([]);
        expect(report.used, record).to.be.above(0);
      }
    }
  });
  it('sound the tide into every depth: soundings of one place differ by it, and less it they agree with the bottom', () => {
    const tide = tideOf(sound.fish.tide)!;
    const { world } = sound;
    let [range, worst] = [[Infinity, -Infinity], 0];
    for (const row of sound.rows.soundings.filter((_, k) => k % 50 === 0)) {
      const height = tide.height(Date.parse(String(row.time)));
      range = [Math.min(range[0], height), Math.max(range[1], height)];
      const [x, y] = world.plane.toMetric({ latitude: Number(row.latitude), longitude: Number(row.longitude) });
      worst = Math.max(worst, Math.abs(Number(row.depth_m) - height - world.depth(x - world.origin[0], y - world.origin[1])));
    }
    expect(range[1] - range[0]).to.be.above(1.2);
    expect(worst).to.be.below(1);
  });
  it('have fish that go with the stream: pollack up-tide of the reef on flood and ebb, pike in the eddies', () => {
    const { fish } = sound;
    const pollack = fish.rules.find((k) => k.name === 'pollack')!;
    const start = Date.UTC(2026, 6, 1);
    const hours = Array.from({ length: 24 }, (_, h) => start + h * 3_600_000).map((t) => ({ t, stream: fish.running(t).stream! }));
    const strongest = (east: boolean): number =>
      hours
        .filter(({ stream }) => Math.sin((stream.set * Math.PI) / 180) > 0 === east)
        .reduce((a, b) => (b.stream.rate > a.stream.rate ? b : a)).t;
    const meanX = (t: number): number => {
      const wants = fish.wants(pollack, fish.setting(t, 30));
      const near = fish.ground.map((g, i) => ({ g, w: wants[i] })).filter(({ g }) => g.wood > 0.2);
      return near.reduce((s, { g, w }) => s + g.x * w, 0) / near.reduce((s, { w }) => s + w, 0);
    };
    // The flood sets east: up-tide is west.
    expect(meanX(strongest(true))).to.be.below(meanX(strongest(false)) - 5);
    const pike = river.fish.rules.find((k) => k.name === 'pike')!;
    const wants = river.fish.wants(pike, river.fish.setting(start, 30));
    const eddies = river.fish.ground.map((g, i) => ({ eddy: g.flow![0] < 0, w: wants[i] }));
    const mean = (eddy: boolean): number => {
      const own = eddies.filter((e) => e.eddy === eddy);
      return own.reduce((s, e) => s + e.w, 0) / own.length;
    };
    expect(mean(true)).to.be.above(4 * mean(false));
  });
});
