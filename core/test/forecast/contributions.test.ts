import { expect } from 'chai';
import fc from 'fast-check';
import { bestPlaces, dayFor, fitModel, hotSpots, predict, reasonsAt, teaching, type CellTally, type FitLook } from '../../src/forecast';
import { Design, designDay } from '../../src/forecast/design';
import { Contributions } from '../../src/forecast/reasons';
import { Rates } from '../../src/forecast/rates';
import { seeded } from '../../src/numbers';
import { HUMPS, cells, certain, conditions, frame, indexAt, liked, look, mean, zander } from '../support/planted-log';

const days = [
  dayFor(conditions({ surface: 9, trend: 0.3, windSpeed: 7, windFrom: 90 }), frame),
  dayFor(conditions({ surface: 23, trend: -0.2, thermoclineSet: { top: 4, bottom: 6 } }), frame),
  dayFor(conditions({ at: new Date('2026-07-20T03:30:00Z') }), frame),
];

/** Trips on days of all kinds; what is seen follows the depth, and on warm days the soft bottom. */
function mixedLog(): FitLook[] {
  const random = seeded(77);
  return Array.from({ length: 24 }, (_, trip) => {
    const day = days[trip % days.length];
    return Array.from({ length: 60 }, (): FitLook => {
      const cell = Math.floor(random() * cells.count);
      const rate = 0.06 * (liked(cell) ? 4 : 0.6) * (trip % 3 === 1 && cells.column[cell] % 2 ? 2 : 1);
      return { look: look(cell, random() < 1 - Math.exp(-rate) ? 1 : 0), cell, trip, day };
    });
  }).flat();
}

// Hardness that varies, so that its terms have something to say.
const varied = { ...cells, hardness: Float32Array.from(cells.hardness, (_, i) => 0.2 + (0.6 * (i % 17)) / 16) };
const model = fitModel(zander, varied, certain(mixedLog()));
const known = Array.from({ length: cells.count }, (_, i) => i).filter((i) => !Number.isNaN(cells.depth[i]));

describe('the bars of a place', () => {
  it('add up to what sets it apart from any other, on any day', () => {
    const rates = new Rates(model, varied);
    const design = new Design(model.spec, varied);
    const bars = days.map((day) => new Contributions(design, model.beta, designDay(model.profile, day)));
    fc.assert(
      fc.property(fc.constantFrom(...known), fc.constantFrom(...known), fc.nat(days.length - 1), (a, b, d) => {
        const sum = (cell: number): number => bars[d].of(cell).reduce((s, v) => s + v, 0);
        expect(sum(a) - sum(b)).to.be.closeTo(rates.of(a, days[d]) - rates.of(b, days[d]), 1e-6);
      }),
    );
  });
  it('are told against the mean of the water: over all of it each factor evens out', () => {
    const bars = new Contributions(new Design(model.spec, varied), model.beta, designDay(model.profile, days[0]));
    const against = bars.mean();
    const sums = against.map(() => 0);
    let area = 0;
    for (let i = 0; i < cells.count; i++) {
      bars.of(i).forEach((v, f) => (sums[f] += (v - against[f]) * cells.area[i]));
      area += cells.area[i];
    }
    for (const sum of sums) expect(Math.abs(sum / area)).to.be.below(1e-9);
  });
  it('name what was seen earlier today where it moved the place, and nothing of it elsewhere', () => {
    const moved = new Float32Array(cells.count);
    moved[known[3]] = 0.8;
    const factors = (cell: number): (string | undefined)[] => reasonsAt(model, varied, days[0], cell, moved).map((r) => r.factor);
    expect(factors(known[3])).to.include('today');
    expect(factors(known[40])).not.to.include('today');
  });
});

describe('a place', () => {
  const forecast = predict(model, varied, days[0]);
  const tally = new Map(known.filter((i) => i % 3 === 0).map((i) => [i, { looked: 2, saw: 1 }]));
  const places = bestPlaces(model, varied, days[0], forecast, tally);
  it('is one piece of water about its best cell, nearly as good all over, with the area of its cells', () => {
    for (const place of places) {
      expect(place.cells).to.include(place.cell);
      const inside = new Set(place.cells);
      // Reached from its best cell by steps to the next cell.
      const reached = new Set([place.cell]);
      for (const i of reached)
        for (const j of inside)
          if (Math.max(Math.abs(cells.column[i] - cells.column[j]), Math.abs(cells.row[i] - cells.row[j])) === 1) reached.add(j);
      expect(reached.size).to.equal(inside.size);
      for (const i of place.cells) expect(forecast.probability[i]).to.be.within(0.7 * place.probability - 1e-6, place.probability + 1e-6);
      expect(place.area).to.be.closeTo(
        place.cells.reduce((s, i) => s + cells.area[i], 0),
        1e-6,
      );
    }
  });
  it('is bettered by no cell beside its best one, and shares no water with another', () => {
    const whose = new Map<number, number>();
    for (const { cell, cells: inside, probability } of places) {
      for (const j of known)
        if (Math.max(Math.abs(cells.column[j] - cells.column[cell]), Math.abs(cells.row[j] - cells.row[cell])) === 1)
          expect(forecast.probability[j]).to.be.at.most(probability);
      for (const i of inside) {
        expect(whose.has(i)).to.equal(false);
        whose.set(i, cell);
      }
    }
  });
  it('counts the looks and sightings in it, and no others', () => {
    for (const place of places) {
      const looked = place.cells.filter((i) => i % 3 === 0).length;
      expect(place).to.include({ looked: 2 * looked, saw: looked });
    }
  });
});

describe('what a look would teach', () => {
  it('is nothing where the log has looked, most where little is known of a likely place, and never less than nothing', () => {
    const bare = fitModel(zander, varied, []);
    const forecast = predict(bare, varied, days[0]);
    const taught = teaching(forecast, new Map([[known[5], { looked: 1 }]]));
    expect(taught[known[5]]).to.equal(0);
    for (const i of known) expect(taught[i]).to.be.at.least(0);
    const order = known
      .filter((i) => i !== known[5] && cells.area[i] > 624)
      .sort((a, b) => forecast.probability[a] - forecast.probability[b]);
    const [poor, rich] = [order.slice(0, 100), order.slice(-100)];
    expect(mean(taught, (i) => rich.includes(i))).to.be.above(2 * mean(taught, (i) => poor.includes(i)));
    // With a log there is less to learn.
    expect(mean(teaching(predict(model, varied, days[0]), new Map()))).to.be.below(mean(taught));
  });
});

describe('hot spots', () => {
  const tally = (): CellTally => ({ seen: new Float64Array(cells.count), effort: new Float64Array(cells.count) });
  const hump = indexAt(...HUMPS[0]);
  it('lie where much was seen for what was looked at, not where much was looked at', () => {
    const halves: [CellTally, CellTally] = [tally(), tally()];
    const often = indexAt(...HUMPS[2]);
    for (const half of halves) {
      half.effort.fill(1);
      half.effort[often] = 200;
      half.seen[often] = 4;
      half.seen[hump] = 6;
      half.effort[hump] = 10;
    }
    const spots = hotSpots(halves, cells);
    expect(spots[hump]).to.be.above(3 * spots[often]);
  });
  it('are everywhere the mean where nothing sets a place apart, and keep the mean of the log', () => {
    const halves: [CellTally, CellTally] = [tally(), tally()];
    for (const half of halves) {
      half.effort.fill(2);
      half.seen.fill(0.1);
    }
    const spots = hotSpots(halves, cells);
    for (const i of known) expect(spots[i]).to.be.closeTo(0.05, 1e-9);
  });
});
