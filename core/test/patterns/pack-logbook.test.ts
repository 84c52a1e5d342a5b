import { expect } from 'chai';
import { packLogbook, unpackLogbook, WaterPatterns, type LogResponse, type LogStop, type Question } from '../../src/patterns';
import { defaultSpecies } from '../../src/species';
import { makeUpLogbook } from '../support/made-up-logbook';

const question: Question = { species: 'zander' };

describe('a packed logbook', () => {
  it('answers every question as the log that was packed', () => {
    const { logbook, chart, days } = makeUpLogbook({ seed: 5, trips: 10, packs: (depth) => (depth > 3 && depth < 6 ? 2 : 0.4), views: 3 });
    logbook.contacts.slice(0, 60).forEach((mark, i) => {
      const end = new Date(Date.parse(mark.time) + 600_000).toISOString();
      const of = { trip_id: mark.trip_id, trip: mark.trip_id, stop: `stop ${i}` };
      logbook.stops.push({ ...of, ...mark, id: `s${i}`, start: mark.time, end, outcome: 'bites', radius_m: null } as unknown as LogStop);
      const response = i % 3 ? 'struck' : 'ignored';
      logbook.responses.push({
        ...of,
        id: `r${i}`,
        time: end,
        contact: mark.contact,
        response,
        lure: `lure ${i % 4}`,
        depth_m: 4.2,
      } as LogResponse);
    });
    // As finely as it travels.
    const hundredth = (v: number): number => Math.round(v * 100) / 100;
    for (const { looks } of logbook.trips)
      for (const look of looks) {
        [look.effort, look.area] = [hundredth(look.effort), hundredth(look.area)];
        [look.from, look.to] = [Math.round(look.from), Math.round(look.to)];
        if (look.reach !== null) look.reach = Math.round(look.reach * 10) / 10;
        for (const t of look.targets) if (t.off !== null) t.off = hundredth(t.off);
      }
    const read = unpackLogbook(packLogbook(logbook));
    const [own, packed] = [logbook, read].map((log) => new WaterPatterns(log, chart, days, [...defaultSpecies]));
    expect(packed.table.count).to.equal(own.table.count).and.to.be.greaterThan(200);
    expect(packed.mood(question, 'lure').n).to.be.greaterThan(20);
    const asked: ((p: WaterPatterns) => unknown)[] = [
      (p) => p.where(question, 'depth', { resamples: 20 }),
      (p) => p.windows(question),
      (p) => p.names(),
      (p) => p.marks(question),
      (p) => p.debates(question),
      (p) => p.mood(question, 'lure'),
      (p) => p.sizes(question),
      (p) => p.whereTheyHang(question),
    ];
    for (const ask of asked) expect(ask(packed)).to.deep.equal(ask(own));
  });
});
