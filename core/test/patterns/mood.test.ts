import { expect } from 'chai';
import {
  labelKey,
  DEBATES,
  nameReport,
  placeInColumn,
  shortestInterval,
  stopClocks,
  WaterPatterns,
  type LogContact,
  type LogResponse,
  type LogStop,
  type Settled,
} from '../../src/patterns';
import { makeUpLogbook, patternsOf } from '../support/made-up-logbook';
import { defaultSpecies } from '../../src/species';

const MAKING = { seed: 61, packs: () => 3, trips: 12 };
const { logbook, chart, days } = makeUpLogbook(MAKING);

const iso = (at: number): string => new Date(at).toISOString();
/** A stop of half an hour on a trip, at one of its marks. */
function stop(trip: number, key: string, more: Partial<LogStop> = {}): LogStop {
  const t = logbook.trips[trip];
  const mark = logbook.contacts.find((c) => c.trip_id === t.id)!;
  const from = t.start + 2 * 3_600_000;
  return {
    id: `${trip} ${key}`,
    trip: t.id,
    trip_id: t.id,
    stop: key,
    start: iso(from),
    end: iso(from + 30 * 60_000),
    latitude: mark.latitude,
    longitude: mark.longitude,
    radius_m: 25,
    rods: 2,
    outcome: null,
    boats_near: null,
    notes: null,
    ...more,
  } as LogStop;
}
function response(of: LogStop, minutes: number, what: string, more: Partial<LogResponse> = {}): LogResponse {
  return {
    id: `${of.id} ${minutes} ${what}`,
    trip: of.trip,
    trip_id: of.trip_id,
    time: iso(Date.parse(of.start) + minutes * 60_000),
    response: what,
    stop: of.stop,
    contact: null,
    species: 'zander',
    length_m: null,
    mass_kg: null,
    fate: null,
    depth_m: null,
    lure: null,
    lure_mass_g: null,
    lure_colour: null,
    presentation: null,
    casts: null,
    notes: null,
    ...more,
  } as LogResponse;
}

describe('the time of a stop', () => {
  it('is split into its first minutes, the time after, and the time after a landing', () => {
    const { table } = new WaterPatterns(logbook, chart, days, [...defaultSpecies]);
    const one = stop(0, 's');
    const [clock] = stopClocks(
      table,
      [one],
      [response(one, 3, 'struck'), response(one, 12, 'landed'), response(one, 15, 'followed')],
      logbook.contacts,
    );
    // Two rods: 8 minutes, then 4 until the fish, 10 after it, 8 more.
    expect(clock.early).to.deep.equal([1, 16]);
    expect(clock.late).to.deep.equal([1, 24]);
    expect(clock.after).to.deep.equal([0, 20]);
    expect(clock).to.include({ landed: 1, marked: true });
    const far = stop(0, 'far', { latitude: 0, longitude: 0 });
    expect(stopClocks(table, [far, stop(0, 'no', { outcome: 'unfishable' })], [], logbook.contacts).map((c) => c.marked)).to.deep.equal([
      false,
    ]);
  });
});

describe('responses', () => {
  const stops = Array.from({ length: 10 }, (_, t) => stop(t, 's'));
  const responses = stops.flatMap((s) =>
    [2, 4, 6, 9].flatMap((m, k) => [
      response(s, m, k < 3 ? 'landed' : 'followed', { lure: 'spoon', length_m: 0.4 + 0.02 * m, depth_m: m }),
      response(s, m + 0.5, k < 1 ? 'struck' : 'ignored', { lure: 'worm' }),
    ]),
  );
  const patterns = patternsOf(MAKING, { stops, responses });
  it('give the share that took each lure, and say what is too few', () => {
    const { lines, n } = patterns.mood({ species: 'zander' }, 'lure');
    expect(n).to.equal(80);
    expect(lines.map((l) => [l.label, l.share.share, l.share.n, l.share.trips])).to.deep.equal([
      ['spoon', 0.75, 40, 10],
      ['worm', 0.25, 40, 10],
    ]);
    // Ten trips that all say the same: two of their 1024 signs.
    expect(lines[0].p).to.be.closeTo(2 / 1024, 1e-9);
    expect(patterns.mood({ species: 'zander' }, 'colour')).to.include({ notKnown: 80 });
    expect(patterns.mood({ species: 'pike' }, 'lure').n).to.equal(0);
  });
  it('give size against depth', () => {
    const { byDepth, points } = patterns.sizes({ species: 'zander' });
    expect(points.length).to.equal(30);
    expect(byDepth!.slope).to.be.closeTo(0.02, 1e-9);
  });
  it('answer debates, or say what it would take', () => {
    const found = patterns.debates({ species: 'zander' });
    expect(found.map((q) => q.key)).to.deep.equal([...DEBATES]);
    for (const q of found) {
      if (q.ratio) expect(q.ratio.low).to.be.at.most(q.ratio.high);
      if (q.verdict === 'first') expect(q.ratio!.low).to.be.above(1);
      if (q.verdict === 'second') expect(q.ratio!.high).to.be.below(1);
    }
    expect(found.find((q) => q.key === 'side')!.verdict).to.equal('silent');
    expect(found.find((q) => q.key === 'minutes')!.verdict).to.equal('first');
  });
  it('know the stops that paid', () => {
    const good = patterns.goodStops({ species: 'zander' });
    expect(good.map((s) => s.bites)).to.deep.equal(Array.from({ length: 10 }, () => 4));
    expect(good[0].at).to.be.above(good[9].at);
  });
});

describe('how long a mark stays good', () => {
  it('is high where packs stay and no more than any look where they are dealt anew', () => {
    // Always in the same few places, or anywhere each day.
    const spots = (_d: number, _s: number, x: number): number => (Math.floor(x / 25) % 9 === 0 ? 14 : 0);
    const boat = (_d: number, _s: number, x: number): number => (x < 500_450 ? 1 : 0.01);
    const found = ['stay', 'roam'].map((how) => {
      const lives = patternsOf({ seed: 71, trips: 40, packs: how === 'stay' ? spots : () => 1.6, boat }).marks({ species: 'zander' });
      const open = lives.find((l) => !l.atCover)!;
      const days = open.lines.find((l) => l.from === 72)!.share;
      expect(days.n, how).to.be.above(20);
      return { again: days.share, any: open.anyLook.share };
    });
    expect(found[0].again).to.be.above(1.5 * found[0].any);
    expect(found[1].again).to.be.below(2.2 * found[1].any);
  });
});

describe('where they hang', () => {
  it('is told of each target once: its depth, its height, the water there, and how often it was large', () => {
    const { logbook: log, chart: water, days: read } = makeUpLogbook({ seed: 81, packs: () => 4, trips: 10, views: 3 });
    // Every third pack is large; a large one has two fish, the others twelve.
    for (const trip of log.trips)
      for (const look of trip.looks)
        for (const t of look.targets) {
          const large = Number(t.target.split('-')[1]) % 3 === 0;
          Object.assign(t, { size: large ? 'large' : 'small', count: large ? 2 : 12 });
        }
    for (const c of log.contacts) c.count = Number(c.contact!.split('-')[1]) % 3 === 0 ? 2 : 12;
    const patterns = new WaterPatterns(log, water, read, [...defaultSpecies]);
    const { traits, large, words } = patterns.whereTheyHang({ species: 'zander' });
    const n = patterns.select({ species: 'zander' }).n.contacts;
    expect(traits.map((t) => t.n)).to.deep.equal([n, n, n, n]);
    const [depth, height, temperature] = traits;
    expect(depth.low).to.be.below(depth.middle).and.below(depth.high);
    // Marked at 0.8 to 0.85 of the depth: the middle hangs 0.175 of it over the bottom.
    expect(height.middle / (height.middle + depth.middle)).to.be.closeTo(0.175, 0.03);
    expect(temperature.middle).to.be.within(8, 21);
    const byPack = large.find((l) => l.by === 'size of the pack')!.lines;
    expect(byPack.find((l) => labelKey(l.label) === '2–4 fish')!.share.share).to.equal(1);
    expect(byPack.find((l) => labelKey(l.label) === '9– fish')!.share.share).to.equal(0);
    expect(byPack.reduce((s, l) => s + l.share.n, 0)).to.equal(n);
    expect(words.find((w) => w.name === 'size')!.n).to.equal(n);
  });
});

describe('names from the screen', () => {
  const settled = (trip: number, form: string, core: string, was: string): Settled => ({
    trip: `t${trip}`,
    signs: { form, core, density: null, place: null, cover: null, count: null, depth: null, season: null },
    guessed: was === 'bream' ? 'zander' : was,
    confidence: 0.8,
    was,
  });
  const log = Array.from({ length: 60 }, (_, i) =>
    i % 3 ? settled(i % 10, 'arches', 'strong', 'zander') : settled(i % 10, 'cloud', 'weak', i % 2 ? 'perch' : 'bream'),
  );
  it('are set against what was right: each trip judged by the others', () => {
    const report = nameReport(log);
    expect(report).to.include({ settled: 60, trips: 10 });
    const arches = report.bySign.find((r) => r.value === 'arches')!;
    expect(arches.were).to.have.length(1);
    expect(arches.were[0].share.share).to.equal(1);
    expect(report.said!.right.share).to.be.closeTo(50 / 60, 1e-9);
    expect(report.said!.lines.map((l) => [l.from, l.share.n])).to.deep.equal([[0.8, 60]]);
    // Arches are surely zander, clouds a coin's toss.
    expect(report.odds!.brier).to.be.below(0.12);
  });
  it('tell the place in the column', () => {
    const at = (top_m: number, bottom_m: number, water_depth_m: number) => placeInColumn({ top_m, bottom_m, water_depth_m } as LogContact);
    expect([at(7.8, 8, 8), at(6, 7, 8), at(3, 4, 8), at(0.5, 1, 8)]).to.deep.equal([
      'on the bottom',
      'near the bottom',
      'mid-water',
      'near the surface',
    ]);
  });
});

describe('the shortest interval', () => {
  it('holds its share of the weight and is the shortest, by hand', () => {
    expect(
      shortestInterval(
        [
          [1, 1],
          [5, 1],
          [5.2, 1],
          [5.5, 1],
          [9, 1],
        ],
        0.6,
      ),
    ).to.deep.equal([5, 5.5]);
    // One heavy contact is enough alone.
    expect(
      shortestInterval(
        [
          [1, 8],
          [5, 1],
          [9, 1],
        ],
        0.7,
      ),
    ).to.deep.equal([1, 1]);
    expect(shortestInterval([])).to.equal(null);
  });
});
