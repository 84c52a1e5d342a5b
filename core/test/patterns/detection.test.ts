import { expect } from 'chai';
import { seeded } from '../../src/numbers';
import { effectiveEffort, fitDetection, LEAST_DISTANCES, lookTable, type LookTable } from '../../src/patterns';
import type { Look } from '../../src/logbook';
import { madeUpChart } from '../support/made-up-logbook';
import { seenTarget } from '../support/seen-target';

const chart = madeUpChart();

/** Looks of two views over the same cells, in which each target is kept with a chance by view and by distance off the line. */
function table(trips: number, keep: (view: string, off: number, depth: number) => number, seed = 1): LookTable {
  const random = seeded(seed);
  const { cells } = chart;
  return lookTable(
    {
      trips: Array.from({ length: trips }, (_, t) => ({
        id: `${t}`,
        start: t * 86_400_000,
        outside: 0,
        looks: Array.from({ length: 160 }, (_v, k): Look => {
          const cell = Math.floor(random() * cells.count);
          const view = k % 3 ? 'side-scan' : 'sounder';
          const reach = k % 3 ? 30 : 2;
          const at = t * 86_400_000 + k * 60_000;
          const targets = [];
          for (let n = 0; n < 3; n++) {
            const off = reach * random();
            if (random() < 0.3 * keep(view, off, cells.depth[cell]))
              targets.push(seenTarget({ target: `${t}-${k}-${n}`, confidence: 0.9, top: 2, bottom: 3, at, view, off }));
          }
          return {
            column: cells.column[cell],
            row: cells.row[cell],
            visit: 0,
            kind: 'scan',
            from: at,
            to: at + 9000,
            effort: 400,
            area: 400,
            view,
            reach,
            targets,
          };
        }),
      })),
      contacts: [],
      stops: [],
      responses: [],
    },
    chart,
    { frame: { latitude: 55, longitude: -39, altitude: 0, deepest: 9, lengthKm: 2 }, readings: [], profiles: [], timeZone: 'UTC' },
  );
}
const half = (off: number, sigma: number): number => Math.exp(-(off ** 2) / (2 * sigma ** 2));

describe('detection', () => {
  it('finds how a view fades off the line, and how much sooner in deep water', () => {
    const found = fitDetection(table(40, (view, off, depth) => (view === 'sounder' ? 1 : half(off, 18 * Math.exp(-0.12 * (depth - 4))))));
    const side = found.find((v) => v.view === 'side-scan')!;
    expect(side.sigma! * Math.exp(side.withDepth * (4 - side.depth))).to.be.within(13, 24);
    expect(side.withDepth).to.be.within(-0.2, -0.05);
    // Where a mark of the sounder lay to the side is not known: it is never taken to fade.
    expect(found.find((v) => v.view === 'sounder')!.sigma).to.equal(null);
  });
  it('finds how much one view shows against the one most used', () => {
    const found = fitDetection(table(40, (view) => (view === 'sounder' ? 0.4 : 1)));
    expect(found[0]).to.include({ view: 'side-scan', against: 1 });
    expect(found[1].against).to.be.within(0.3, 0.6);
    const same = fitDetection(table(40, () => 1));
    expect(same[1].against).to.be.within(0.8, 1.25);
  });
  it('says nothing of a fall below so many distances', () => {
    const few = table(2, (view, off) => (view === 'sounder' ? 0 : 0.15 * half(off, 6)));
    expect(few.targets.length).to.be.below(LEAST_DISTANCES);
    expect(fitDetection(few)[0].sigma).to.equal(null);
  });
  it('counts the water that a view showed, no more than it swept', () => {
    const t = table(30, (view, off) => (view === 'sounder' ? 1 : half(off, 10)));
    const views = fitDetection(t);
    const effort = effectiveEffort(t, views);
    for (let i = 0; i < t.count; i++) {
      if (t.view[i] < 0) continue;
      const v = views.find((w) => w.view === 'side-scan')!;
      if (t.reach[i] === 30) expect(effort[i] / t.effort[i] / v.against).to.be.within(0.2, 0.75);
    }
  });
});
