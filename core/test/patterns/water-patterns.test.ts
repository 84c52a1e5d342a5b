import { expect } from 'chai';
import { covariate, finish, lookTable, selection, WaterPatterns, type Logbook, type Question } from '../../src/patterns';
import type { Look, SeenTarget } from '../../src/logbook';
import { madeUpChart, makeUpLogbook, patternsOf, type LogMaking } from '../support/made-up-logbook';
import { seenTarget } from '../support/seen-target';

const ZANDER: Question = { species: 'zander' };
const even = (): number => 3;

/** Classes whose 80 % interval lies wholly on one side of chance, and all with an interval. */
function aside(patterns: WaterPatterns, key: string): { wrong: number; all: number } {
  const classes = patterns.where(ZANDER, key).classes.filter((c) => !Number.isNaN(c.low) && c.expected > 3);
  return { wrong: classes.filter((c) => c.low > 1 || c.high < 1).length, all: classes.length };
}

describe('a log from tracks and marks to patterns', () => {
  it('gives back a preference that was planted in the fish', () => {
    const packs = (depth: number): number => (depth >= 4 && depth < 6 ? 6 : 1.5);
    const patterns = patternsOf({ seed: 11, packs, trips: 30 });
    const selected = patterns.select(ZANDER);
    const depth = patterns.values(ZANDER).of('depth');
    const classes = Array.from(selected.scans, (i) => patterns.values(ZANDER).classesOf('depth')[i]);
    const truth = selection(
      {
        used: Array.from(selected.scans, (i, k) => packs(depth[i]) * selected.effort[k]),
        effort: selected.effort,
        classes,
        clusters: selected.clusters,
      },
      { classes: covariate('depth').edges!.length, resamples: 0 },
    );
    const rows = patterns.where(ZANDER, 'depth').classes.filter((c) => c.expected > 5);
    expect(rows.length).to.be.above(3);
    const held = rows.filter((c) => c.low <= truth[c.class].ratio && truth[c.class].ratio <= c.high);
    expect(held.length / rows.length).to.be.at.least(0.6);
    for (const c of rows.filter((r) => r.class === 4 || r.class === 5)) expect(c.low, `class ${c.class}`).to.be.above(1);
    expect(rows.filter((c) => c.class < 3).every((c) => c.high < 1)).to.equal(true);
  });

  const boats: [string, LogMaking['boat'], LogMaking['packs']][] = [
    ['by depth', (depth) => Math.exp(-((depth - 5) ** 2) / 2), even],
    [
      'by season: shallow in a rich spring, deep in a poor summer',
      (depth, season) => (depth < 4 ? 1 - season : season) * 0.95 + 0.05,
      (_, season) => (season ? 1 : 6),
    ],
    ['by place', (_depth, _season, x) => (x > 501_000 ? 1 : 0.1), even],
  ];
  for (const [name, boat, packs] of boats)
    it(`does not take for the fish's what was only in where the boat looked, ${name}`, () => {
      let [wrong, all] = [0, 0];
      for (const seed of [21, 22]) {
        const patterns = patternsOf({ seed, packs, boat });
        for (const key of ['depth', 'hardness', 'position-wide', 'shore']) {
          const found = aside(patterns, key);
          wrong += found.wrong;
          all += found.all;
        }
        expect(finish(patterns.search(ZANDER)).found.map((f) => f.conditions.map((c) => c.key))).to.deep.equal([]);
      }
      expect(all).to.be.above(20);
      // One in five misses by luck.
      expect(wrong / all).to.be.below(0.42);
    });

  it('counts a pack that three views marked once', () => {
    const making = { seed: 5, packs: even, trips: 8 };
    const [once, thrice] = [patternsOf(making), patternsOf({ ...making, views: 3 })].map((p) => p.select(ZANDER));
    expect(once.n.contacts).to.be.above(20);
    expect(thrice.n.contacts).to.equal(once.n.contacts);
    expect(Array.from(thrice.used).reduce((a, b) => a + b)).to.equal(Array.from(once.used).reduce((a, b) => a + b));
    const { logbook } = makeUpLogbook({ ...making, views: 3 });
    expect(logbook.contacts.length).to.equal(3 * once.n.contacts);
  });

  it('learns how a view fades with the distance off the line, and only where it does', () => {
    const faded = patternsOf({ seed: 31, packs: () => 8, seen: (off) => Math.exp(-(off ** 2) / (2 * 9 ** 2)) }).views[0];
    expect(faded.view).to.equal('side-scan');
    expect(faded.sigma).to.be.within(7, 12);
    const clear = patternsOf({ seed: 31, packs: () => 8 }).views[0];
    // An even picture: either no fall, or one beyond its edge.
    expect(clear.sigma ?? 99).to.be.above(20);
  });

  const patterns = patternsOf({ seed: 41, packs: (depth) => (depth > 4 ? 4 : 1), trips: 24 });
  it('narrows everything by a question, and leaves nothing that was not asked for', () => {
    const all = patterns.select(ZANDER);
    for (const [name, narrowed] of Object.entries({
      stage: { ...ZANDER, stages: ['summer' as const] },
      dates: { ...ZANDER, from: '2025-01-01' },
      cold: { ...ZANDER, surface: [5, 15] as [number, number] },
      'an hour': { ...ZANDER, hours: [4, 5] as [number, number] },
    })) {
      const { n, scans, table } = patterns.select(narrowed);
      expect(n.looks, name).to.be.within(1, all.n.looks - 1);
      expect(n.contacts, name).to.be.below(all.n.contacts);
      if (name === 'cold') for (const i of scans) expect(table.moment[i].day.conditions.surface).to.be.within(5, 15);
      if (name === 'an hour') for (const i of scans) expect(table.moment[i].hour).to.be.within(4, 5);
    }
    // Looks stay when only the fish are narrowed.
    for (const narrowed of [
      { ...ZANDER, odds: 0.9 },
      { ...ZANDER, confirmedOnly: true },
      { ...ZANDER, size: 'large' as const },
    ])
      expect(patterns.select(narrowed).n).to.include({ contacts: 0, looks: all.n.looks });
    expect(patterns.select({ species: 'pike' }).n.contacts).to.equal(0);
    expect(patterns.where({ species: 'pike' }, 'depth').enough).to.equal(false);
  });
  it('shows the contacts behind each class, each once', () => {
    const { classes } = patterns.where(ZANDER, 'depth');
    let sum = 0;
    for (const c of classes) {
      const picked = patterns.pick(ZANDER, { at: 'class', key: 'depth', class: c.class });
      sum += picked.length;
      const [low, high] = [covariate('depth').edges![c.class], covariate('depth').edges![c.class + 1]];
      for (const p of picked) expect(p.water).to.be.within(low - 1.5, high + 1.5);
    }
    expect(sum).to.equal(patterns.pick(ZANDER, { at: 'all' }).length);
    expect(sum).to.equal(patterns.select(ZANDER).n.contacts);
  });
  it('draws a heat map whose looks and contacts are those of the log', () => {
    const { cells, classes } = patterns.heat(ZANDER, ['hardness', 'depth']);
    expect(new Set(cells.map((c) => classes[0][c.a])).size).to.equal(classes[0].length);
    expect(cells.reduce((s, c) => s + c.looks, 0)).to.equal(patterns.select(ZANDER).n.looks);
  });
  it('gives a day’s depth window where enough was seen, narrower than chance only where it is', () => {
    const { days } = patterns.windows(ZANDER);
    const told = days.filter((d) => d.byBottom);
    expect(told.length).to.be.above(5);
    for (const d of told) {
      expect(d.byBottom!.top).to.be.at.most(d.byBottom!.bottom);
      expect(d.contacts).to.be.at.least(6);
      expect(d.byBottom!.chance).to.be.within(0, 1);
    }
  });
  it('compares two years of like stages, and finds one log like itself', () => {
    const alike = patterns.years(ZANDER)!;
    expect(alike.years).to.deep.equal([2024, 2025]);
    const inside = alike.alike.filter((a) => a.overlap >= a.split[0]);
    expect(inside.length / alike.alike.length).to.be.above(0.6);
    expect(patterns.years({ ...ZANDER, to: '2024-12-31' })).to.equal(null);
  });
});

describe('what was known before a look', () => {
  const HOUR = 3_600_000;
  const start = Date.UTC(2026, 6, 1, 8);
  const chart = madeUpChart();
  const column = Math.floor(501_000 / 25);
  const row = Math.floor(6_100_600 / 25);
  const bait = (at: number): SeenTarget =>
    seenTarget({ target: `b${at}`, kind: 'bait', species: null, confidence: null, count: 100, top: 2, bottom: 3, at, view: 'sounder' });
  const look = (at: number, along: number, more: Partial<Look> = {}): Look => ({
    column: column + along,
    row,
    visit: 0,
    kind: 'scan',
    from: at,
    to: at + 20_000,
    effort: 400,
    area: 400,
    view: 'side-scan',
    reach: 20,
    targets: [],
    ...more,
  });
  const table = (looks: Look[]) => {
    const logbook: Logbook = { trips: [{ id: 'a', start, looks, outside: 0 }], contacts: [], stops: [], responses: [] };
    return lookTable(logbook, chart, {
      frame: { latitude: 55, longitude: -39, altitude: 0, deepest: 9, lengthKm: 2 },
      readings: [],
      profiles: [],
      timeZone: 'UTC',
    });
  };
  it('is bait seen earlier, none where somebody had looked, and not known where nobody had', () => {
    const t = table([
      look(start, 0, { targets: [bait(start)] }),
      look(start + 60_000, 1),
      look(start + 0.5 * HOUR, 1),
      look(start + HOUR, 6),
      look(start + 2 * HOUR, 30),
      look(start + 30 * HOUR, 0),
    ]);
    // In one go with the bait: not forewarned. Half an hour later: seen within 50 m and 200 m. 150 m off: within 200 m only, and
    // nobody had looked within 50 m. 750 m off: not known. A day later the bait is no news, and nobody has looked since.
    expect([...t.bait50]).to.deep.equal([-1, -1, 1, -1, -1, -1]);
    expect([...t.bait200]).to.deep.equal([-1, -1, 1, 1, -1, -1]);
    const none = table([look(start, 0), look(start + HOUR, 1)]);
    expect([...none.bait50]).to.deep.equal([-1, 0]);
  });
  it('is when the place was fished last, and the gap since', () => {
    const t = table([
      look(start, 0),
      look(start + HOUR, 0, { kind: 'fish', to: start + 2 * HOUR, effort: 60, view: null, reach: null }),
      look(start + 50 * HOUR, 0),
      look(start + 50 * HOUR, 3),
    ]);
    expect(t.fishedBefore[0]).to.be.NaN;
    expect(t.fishedBefore[2]).to.be.closeTo(2, 1e-6);
    expect(t.fishedBefore[3]).to.be.NaN;
  });
});

describe('similar spots', () => {
  const patterns = patternsOf({ seed: 51, packs: (depth) => (depth > 4 ? 4 : 1), trips: 12 });
  const { cells } = madeUpChart();
  const middle = (i: number): [number, number] => [(cells.column[i] + 0.5) * 25, (cells.row[i] + 0.5) * 25];
  const chosen = Array.from({ length: cells.count }, (_, i) => i).find((i) => cells.depth[i] > 5.4 && cells.hardness[i] > 0.7)!;
  const at = Date.UTC(2025, 6, 10, 12);
  it('are like it in what counts, apart from each other, and told by whether they were looked at', () => {
    const { spots } = patterns.similarSpots(ZANDER, [middle(chosen)], at, {});
    expect(spots.length).to.be.above(5);
    for (const [k, t] of spots.entries()) {
      expect(cells.hardness[t.cell]).to.be.above(0.6);
      expect(Math.abs(t.depth - cells.depth[chosen])).to.be.below(2);
      expect(t.state).to.equal(t.looked === 0 ? 'never' : t.saw ? 'held' : 'empty');
      if (k) expect(t.likeness).to.be.at.most(spots[k - 1].likeness);
      for (const other of spots.slice(k + 1)) expect(Math.hypot(t.x - other.x, t.y - other.y)).to.be.at.least(120);
      for (const r of t.alike) expect(r.apart).to.be.below(0.7);
    }
  });
  it('follow the weights: without hardness the soft side has them too', () => {
    const soft = (weights: Record<string, number>): number =>
      patterns.similarSpots(ZANDER, [middle(chosen)], at, weights, 20).spots.filter((t) => cells.hardness[t.cell] < 0.4).length;
    expect(soft({})).to.equal(0);
    expect(soft({ hardness: 0, edge: 0 })).to.be.above(2);
  });
  it('say when the place lies off the chart', () =>
    expect(patterns.similarSpots(ZANDER, [[0, 0]], at, {})).to.deep.equal({ spots: [], chosen: 0 }));
});
