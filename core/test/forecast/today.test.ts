import { expect } from 'chai';
import { learnToday, withinDayUpdate, type DayLook, type SeenToday } from '../../src/forecast';
import { seeded } from '../../src/numbers';
import { madeUpChart } from '../support/made-up-logbook';

const HOUR = 3_600_000;

/** Trips over a square of 2 km, each day with its own good end; `pull` says how much better it is. */
function days(pull: number, seed: number): DayLook[] {
  const random = seeded(seed);
  const out: DayLook[] = [];
  for (let trip = 0; trip < 25; trip++) {
    const [gx, gy] = [random() * 2000, random() * 2000];
    for (let k = 0; k < 250; k++) {
      const [x, y] = [random() * 2000, random() * 2000];
      const near = Math.exp(-((x - gx) ** 2 + (y - gy) ** 2) / (2 * 400 ** 2));
      const rate = 0.06 * Math.exp(pull * near);
      out.push({
        trip,
        x,
        y,
        at: trip * 24 * HOUR + (k * 6 * HOUR) / 250,
        expected: 0.06,
        seen: random() < rate ? 1 : 0,
        expectedBait: 0.1,
        bait: 0,
      });
    }
  }
  return out;
}

describe('what was seen earlier today', () => {
  it('is carried on where days have good ends, and about as far as they stretch', () => {
    const { fish, bait } = learnToday(days(2.2, 1), 0.1);
    expect(fish).to.not.equal(null);
    expect(fish!.width).to.be.within(160, 640);
    expect(bait).to.equal(null);
  });
  it('is not carried where nothing lasts through the day', () => {
    let carried = 0;
    for (let seed = 1; seed <= 12; seed++) if (learnToday(days(0, seed), 0.1).fish) carried++;
    expect(carried).to.be.at.most(2);
  });
  const { cells } = madeUpChart();
  const chances = new Float32Array(cells.count).fill(0.05);
  const kernel = { width: 160, hours: Infinity, pseudoCount: 2, power: 1 };
  const look = (cell: number, fish: number, bait = 0): SeenToday => ({ cell, at: 0, effort: 1, fish, bait });
  it('raises the places about fish that were met, lowers those where none were, and leaves the far ones alone', () => {
    const middle = Math.floor(cells.count / 2);
    const far = Array.from({ length: cells.count }, (_, i) => i).find(
      (i) => Math.hypot(cells.column[i] - cells.column[middle], cells.row[i] - cells.row[middle]) * 25 > 600,
    )!;
    const met = withinDayUpdate({ fish: kernel, bait: null, baitRate: 0.1 }, [look(middle, 2)], chances, cells, HOUR)!;
    expect(met[middle]).to.be.closeTo(Math.log((2 + 2) / (2 - Math.log1p(-0.05))), 1e-5);
    expect(met[far]).to.equal(0);
    const blank = withinDayUpdate({ fish: kernel, bait: null, baitRate: 0.1 }, [look(middle, 0)], chances, cells, HOUR)!;
    expect(blank[middle]).to.be.below(0);
  });
  it('moves nothing before anything was seen, nor by what comes later', () => {
    const model = { fish: kernel, bait: null, baitRate: 0.1 };
    expect(withinDayUpdate(model, [], chances, cells, HOUR)).to.equal(null);
    const early = withinDayUpdate(model, [look(3, 2)], chances, cells, -HOUR)!;
    expect(Math.max(...early.map(Math.abs))).to.equal(0);
  });
});
