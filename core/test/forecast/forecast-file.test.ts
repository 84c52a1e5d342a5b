import { expect } from 'chai';
import { csvRows } from '../../src/formats';
import { bestPlaces, fitModel, forecastCsv, indexCells, predict, seenEarlier } from '../../src/forecast';
import { metricPlane } from '../../src/geo';
import { cells, certain, day, log, look, zander } from '../support/planted-log';
import { seenTarget } from '../support/seen-target';

const plane = metricPlane(32625);

describe('a forecast as a file', () => {
  const model = fitModel(zander, cells, certain(log(10, 60, 4, 9)));
  const forecast = predict(model, cells, day);
  const at = '2026-07-20T12:00:00Z';
  const text = forecastCsv(forecast, cells, plane, 'perch, "the small ones"', at);
  const rows: Record<string, string>[] = [];
  before(async () => {
    let columns: string[] | null = null;
    for await (const batch of csvRows([new TextEncoder().encode(text)]))
      for (const { fields } of batch) {
        if (!columns) columns = fields;
        else rows.push(Object.fromEntries(columns.map((c, k) => [c, fields[k]])));
      }
  });
  it('has a row for each cell, in the order of the chart, every number one, the interval about the chance', () => {
    expect(rows).to.have.length(cells.count);
    for (const [k, row] of rows.entries()) {
      const number = (column: string): number => {
        expect(row[column], `${column} of row ${k + 1}`).to.match(/^-?\d+(\.\d+)?(e-?\d+)?$/);
        return Number(row[column]);
      };
      const [chance, low, high] = ['probability', 'low', 'high'].map(number);
      expect(chance).to.be.within(0, 1);
      expect(low).to.be.at.most(chance * 1.001);
      expect(high).to.be.at.least(chance * 0.999);
      expect(number('depth_top_m')).to.be.at.most(number('depth_bottom_m'));
      expect(number('depth_bottom_m')).to.be.at.most(Math.max(cells.depth[k], 0) + 0.26);
      expect(row).to.include({ species: 'perch, "the small ones"', at });
    }
  });
  it('says the same chances as the map, at the cells where the map has them', () => {
    for (let k = 0; k < cells.count; k += 97) {
      const [x, y] = plane.toMetric({ latitude: Number(rows[k].latitude), longitude: Number(rows[k].longitude) });
      expect([Math.floor(x / 25), Math.floor(y / 25)]).to.deep.equal([cells.column[k], cells.row[k]]);
      expect(Number(rows[k].probability)).to.be.closeTo(forecast.probability[k], 1e-4 * forecast.probability[k]);
    }
    // The best place of the list is a best row of the file.
    const [first] = bestPlaces(model, cells, day, forecast, new Map(), 3);
    const best = Math.max(...rows.map((r) => Number(r.probability)));
    expect(Math.max(...first.cells.map((i) => Number(rows[i].probability)))).to.be.closeTo(best, 1e-4);
  });
});

describe('what looks of a day saw', () => {
  const index = indexCells(cells);
  const seen = (...targets: Partial<Parameters<typeof seenTarget>[0]>[]) => targets.map((t) => seenTarget(t));
  it('is counted by species and bait, per cell’s worth of scanning; a line trolled and water off the chart say nothing', () => {
    const looks = [
      look(40, 0, {
        effort: 312.5,
        targets: seen({ species: 'zander' }, { species: 'perch' }, { kind: 'bait', species: null }, { species: null }),
      }),
      look(41, 0, { kind: 'fish', effort: 30, targets: seen({ species: 'zander' }, { species: 'zander' }) }),
      look(42, 0, { kind: 'troll', targets: seen({ species: 'zander' }) }),
      { ...look(43, 0), column: -9999 },
    ];
    const told = seenEarlier(looks, (name) => name === 'zander', index);
    expect(told.map(({ cell, effort, fish, bait }) => ({ cell, effort, fish, bait }))).to.deep.equal([
      { cell: 40, effort: 0.5, fish: 1, bait: 1 },
      { cell: 41, effort: 0, fish: 2, bait: 0 },
    ]);
    expect(told[0].at).to.equal(looks[0].from);
  });
});
