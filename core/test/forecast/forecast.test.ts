import { expect } from 'chai';
import {
  bestPlaces,
  reasonsAt,
  groupProfiles,
  chanceOverTrips,
  combinedScore,
  conditionsFromLog,
  dayFor,
  fitModel,
  packModel,
  predict,
  strategyDay,
  strategyScore,
  STRATEGIES,
  unpackModel,
  validate,
  windBlown,
  type FitLook,
  type Day,
} from '../../src/forecast';
import { CELL_COLUMNS, type CellTable } from '../../src/chart';
import { Design, designDay, SparseRow } from '../../src/forecast/design';
import { DEPTH_BY_DAY } from '../../src/forecast/terms';
import { DayTotal, STAYING } from '../../src/forecast/day-total';
import { Rates } from '../../src/forecast/rates';
import { STREAM_SIDES, streamSides } from '../../src/forecast/stream-sides';
import type { Reading } from '../../src/logbook';
import { seeded } from '../../src/numbers';
import { defaultSpecies, STRATEGY_SETTINGS, strategySetting, speciesSchema } from '../../src/species';
import { BEYOND_TERMS } from '../../src/forecast/predict';
import { HUMPS, cells, certain, conditions, day, frame, indexAt, liked, log, look, mean, zander } from '../support/planted-log';

describe('the forecast without a log', () => {
  it('is the strategies: it ranks the water as they do', () => {
    const forecast = predict(fitModel(zander, cells, []), cells, day);
    const strategy = strategyDay(zander, day);
    const whole = Array.from({ length: cells.count }, (_, i) => i).filter((i) => cells.area[i] > 624);
    const byForecast = [...whole].sort((a, b) => forecast.probability[b] - forecast.probability[a]);
    const scores = byForecast.map((i) => combinedScore(strategy, cells, i));
    for (let k = 1; k < scores.length; k++) expect(scores[k]).to.be.at.most(scores[k - 1] + 0.02);
  });
  it('expects little of a scan in water that hardly covers the transducer, whatever the strategies make of it', () => {
    const flat = (depth: number): CellTable => ({ ...cells, depth: new Float32Array(cells.count).fill(depth) });
    const best = indexAt(...HUMPS[0]);
    const of = (depth: number): { rate: number; strategies: number } => {
      const water = flat(depth);
      const odds = STRATEGIES.reduce((s, strategy, k) => s + today.weights[k] * strategyScore(strategy, today, water, best), 0);
      return { rate: Math.log(-Math.log1p(-predict(fitModel(zander, water, []), water, day).probability[best])), strategies: odds };
    };
    const today = strategyDay(zander, day);
    const [half, one, three, ten] = [0.5, 1, 3, 10].map(of);
    const shown = (at: typeof half): number => Math.exp(at.rate - at.strategies - (ten.rate - ten.strategies)) * 0.96;
    // 0.4 m of the column are lost: a fifth is left of half a metre, 60 % of one, 87 % of three, 96 % of ten.
    expect(shown(half)).to.be.closeTo(0.2, 0.01);
    expect(shown(one)).to.be.closeTo(0.6, 0.02);
    expect(shown(three)).to.be.closeTo(0.867, 0.02);
  });
  it('follows the strategies as an angler sets them, in the forecast as in its reasons', () => {
    const windy = dayFor(conditions({ windFrom: 90, windSpeed: 8 }), frame);
    const alone = Object.fromEntries(STRATEGIES.map((strategy) => [`${strategy}.weight`, strategy === 'bait' ? 1 : 0]));
    const chances = (strategies: Record<string, number>): Float32Array => {
      const set = { ...zander, strategies };
      return predict(fitModel(set, cells, []), cells, windy).probability;
    };
    const whole = Array.from({ length: cells.count }, (_, i) => i).filter((i) => cells.area[i] > 624);
    const logOdds = (p: Float32Array): number[] => whole.map((i) => Math.log(-Math.log1p(-p[i])));
    const level = logOdds(chances({ ...alone, 'bait.weight': 0 }));
    const blown = logOdds(chances(alone)).map((v, k) => v - level[k]);
    const doubled = logOdds(chances({ ...alone, 'bait.wind': 2 * strategySetting(zander, 'bait.wind') })).map((v, k) => v - level[k]);
    // The wind alone tells places apart, by what it is said to be worth.
    whole.forEach((i, k) => expect(blown[k]).to.be.closeTo(1.2 * windBlown(cells, i, 90, 8), 0.02));
    blown.forEach((v, k) => expect(doubled[k]).to.be.closeTo(2 * v, 0.02));
    expect(Math.max(...blown) - Math.min(...blown)).to.be.above(0.5);
  });
  it('has no setting of the strategies that moves nothing', () => {
    const running = { set: 80, rate: 0.7 };
    const layered = dayFor(conditions({ windFrom: 90, windSpeed: 8, thermoclineSet: { top: 4, bottom: 6 }, current: running }), frame);
    const scores = (strategies: Record<string, number>): number[] => {
      const on = strategyDay({ ...zander, strategies }, layered);
      return Array.from({ length: cells.count }, (_, i) => combinedScore(on, rich, i));
    };
    // The planted lake has no edge and no wood: here it has.
    const rich = { ...cells, edgeDistance: cells.shoreDistance, woodDistance: cells.shoreDistance };
    for (const { key, min, max } of STRATEGY_SETTINGS) {
      const [low, high] = [scores({ [key]: min }), scores({ [key]: max })];
      expect(Math.max(...low.map((v, i) => Math.abs(v - high[i]))), key).to.be.above(0.005);
    }
  });
  it('refuses settings of the strategies that are none, or beyond their limits, by name', () => {
    const refused = (strategies: unknown): string => {
      try {
        speciesSchema.validateSync({ ...zander, strategies });
      } catch (error) {
        return (error as Error).message;
      }
      return '';
    };
    expect(refused({ 'cover.reach': 60 })).to.equal('');
    expect(refused({ 'cover.reach': 1 })).to.include('cover.reach must be a number from 5 to 150');
    expect(refused({ 'cover.reach': '60' })).to.include('cover.reach must be');
    expect(refused({ 'moon.weight': 1 })).to.include('moon.weight');
  });
});

describe('the forecast with a log', () => {
  it('finds a planted preference for a depth, and says how many', () => {
    const model = fitModel(zander, cells, certain(log(30, 120, 5, 1)));
    const forecast = predict(model, cells, day);
    const ratio = mean(forecast.probability, liked) / mean(forecast.probability, (i) => !liked(i));
    expect(ratio).to.be.within(3, 7);
    expect(mean(forecast.probability, (i) => cells.area[i] > 600 && liked(i))).to.be.within(0.13, 0.36);
  });
  it('is right on average: as many expected as were seen', () => {
    const looks = log(25, 100, 3, 2, 0.1);
    const model = fitModel(zander, cells, certain(looks));
    const forecast = predict(model, cells, day);
    const expected = looks.reduce((s, l) => s - Math.expm1((500 / 625) * Math.log1p(-forecast.probability[l.cell])), 0);
    const seen = looks.reduce((s, l) => s + (l.look.targets.length ? 1 : 0), 0);
    expect(expected / seen).to.be.within(0.85, 1.15);
  });
  it('speaks of scans as the log makes them: a view that shows a third as much is no place with fewer fish', () => {
    // The side-scan, which shows a third as much, looks at one half of the water; the sounder at the other; both in the middle.
    const random = seeded(21);
    const looks: FitLook[] = [];
    for (let trip = 0; trip < 30; trip++)
      for (let k = 0; k < 150; k++) {
        const cell = Math.floor(random() * cells.count);
        const east = (cells.column[cell] * 25 - 500_000) / 1500;
        const side = random() < (east < 0.3 ? 0.95 : east > 0.7 ? 0.05 : 0.5);
        const seen = random() < 1 - Math.exp(side ? -0.03 : -0.09) ? 1 : 0;
        looks.push({ look: look(cell, seen, { view: side ? 'side-scan' : 'sounder', reach: side ? 20 : 3 }), cell, trip, day });
      }
    const { probability } = predict(fitModel(zander, cells, certain(looks)), cells, day);
    const part = (from: number, to: number): number =>
      mean(probability, (i) => cells.area[i] > 600 && cells.column[i] * 25 - 500_000 > from && cells.column[i] * 25 - 500_000 < to);
    const plain = predict(fitModel(zander, cells, certain(looks.map((l) => ({ ...l, look: { ...l.look, view: null } })))), cells, day);
    const unequal =
      mean(plain.probability, (i) => cells.column[i] * 25 > 501_050) / mean(plain.probability, (i) => cells.column[i] * 25 < 500_450);
    expect(part(1050, 1500) / part(0, 450)).to.be.within(0.6, 1.5);
    expect(unequal).to.be.above(1.7);
  });
  it('learns that a view from straight above loses the fish of a slope, and takes the slope for no worse than its usual scans do', () => {
    const random = seeded(33);
    const steep = (cell: number): boolean => cells.slope[cell] > 0.07;
    const looks = (hides: number): FitLook[] =>
      Array.from({ length: 6000 }, (_, k) => {
        const cell = Math.floor(random() * cells.count);
        // On a slope the sounder is what there is to go by, mostly; as many fish are there as anywhere.
        const above = random() < (steep(cell) ? 0.9 : 0.3);
        const seen = random() < 1 - Math.exp(-0.1 * (above && steep(cell) ? hides : 1)) ? 1 : 0;
        return { look: look(cell, seen, { view: above ? 'sounder' : 'side-scan', reach: above ? 3 : 20 }), cell, trip: k % 30, day };
      });
    const slopesOf = (model: ReturnType<typeof fitModel>): number => {
      const { probability } = predict(model, cells, day);
      const open = (i: number): boolean => cells.area[i] > 600 && cells.depth[i] > 2;
      return mean(probability, (i) => open(i) && steep(i)) / mean(probability, (i) => open(i) && !steep(i));
    };
    const fit = (hides: number): { model: ReturnType<typeof fitModel>; slopes: number } => {
      const model = fitModel(zander, cells, certain(looks(hides)));
      return { model, slopes: slopesOf(model) };
    };
    const shown = ({ model }: ReturnType<typeof fit>, view: 'sounder' | 'side-scan', slope: boolean): number => {
      const rates = new Rates(model, cells);
      const some = Array.from({ length: cells.count }, (_, i) => i).filter((i) => steep(i) === slope && cells.area[i] > 600);
      return some.reduce((sum, i) => sum + rates.detection(look(i, 0, { view, reach: view === 'sounder' ? 3 : 20 }), i), 0) / some.length;
    };
    const [lost, even] = [fit(0.3), fit(1)];
    const apart = (f: ReturnType<typeof fit>): number =>
      shown(f, 'sounder', true) - shown(f, 'sounder', false) - (shown(f, 'side-scan', true) - shown(f, 'side-scan', false));
    // Truly log 0.3 = −1.2.
    expect(apart(lost)).to.be.within(-1.6, -0.5);
    expect(apart(even)).to.be.within(-0.35, 0.35);
    // Four in ten scans of the log look from above: as its usual scan shows a slope, 0.3 to the power of 0.4 of its fish
    // are seen. That nine in ten of those over slopes do says nothing of the fish.
    expect(lost.slopes / even.slopes).to.be.within(0.48, 0.78);
    const plain = looks(0.3).map((l) => ({ ...l, look: { ...l.look, view: null } }));
    expect(slopesOf(fitModel(zander, cells, certain(plain)))).to.be.below(0.85 * lost.slopes);
  });
  it('expects what the log saw, days of luck and all', () => {
    const looks = log(25, 100, 1, 22, 0.08);
    const { beta, tripSpread, ...model } = fitModel(zander, cells, certain(looks));
    const rates = new Rates({ ...model, beta }, cells);
    const expected = looks.reduce((s, l) => s + chanceOverTrips(rates.of(l.cell, l.day) + Math.log(500 / 625), tripSpread), 0);
    expect(expected / looks.filter((l) => l.look.targets.length).length).to.be.within(0.98, 1.02);
  });
  it('takes the fish of a water for about as many on another day: fewer in one depth are more in another', () => {
    const model = fitModel(zander, cells, certain(log(25, 100, 5, 23)));
    // Another day in the cold after a blow, much of the water out of favour.
    const cold = dayFor(conditions({ at: new Date('2026-11-10T12:00:00Z'), surface: 6, trend: -0.2, windSpeed: 9 }), frame);
    const total = (usualTotal: number | null, on: typeof day): number =>
      Math.log(predict({ ...model, usualTotal, tripSpread: 0 }, cells, on).probability.reduce((s, p) => s - Math.log1p(-p), 0));
    const apart = total(null, cold) - total(null, day);
    const { usualTotal } = model;
    expect(Math.abs(apart)).to.be.above(0.2);
    expect(total(usualTotal, cold) - total(usualTotal, day)).to.be.closeTo((1 - STAYING) * apart, 0.05 * Math.abs(apart));
    // The days of the log are as they were.
    expect(total(usualTotal, day)).to.be.closeTo(total(null, day), 0.01);
  });
  it('sums a water up from a sample as from all its cells', () => {
    const model = fitModel(zander, cells, certain(log(12, 80, 4, 24)));
    const design = new Design(model.spec, cells);
    const rates = new Rates({ ...model, usualTotal: null }, cells);
    const all = Array.from({ length: cells.count }, (_, i) => i).filter((i) => !Number.isNaN(cells.depth[i]));
    for (const surface of [8, 19, 24]) {
      const on = dayFor(conditions({ surface }), frame);
      const mean = all.reduce((s, i) => s + (Math.exp(rates.of(i, on)) * cells.area[i]) / 625, 0) / all.length;
      const summed = new DayTotal(design, model.beta, cells, zander).logMean(designDay(zander, on));
      expect(Math.exp(summed) / mean).to.be.within(0.99, 1.01);
    }
  });
  it('does so too where a few cells hold most of the fish, whichever cells the sample begins with', () => {
    const model = fitModel(zander, cells, certain(log(12, 80, 4, 24)));
    /** So many times the lake side by side, but for some cells at its beginning; reefs in one cell of 97 of the rest. */
    const many = (times: number, but: number): CellTable => {
      const longer = <T extends Float32Array | Int32Array>(column: T): T => {
        const out = new (column.constructor as new (n: number) => T)(times * column.length);
        for (let k = 0; k < times; k++) out.set(column, k * column.length);
        return out.subarray((but * column.length) / cells.count) as T;
      };
      const columns = Object.fromEntries(CELL_COLUMNS.map((name) => [name, longer(cells[name])])) as Pick<CellTable, (typeof CELL_COLUMNS)[number]>; // prettier-ignore
      const table = { ...columns, count: times * cells.count - but, column: longer(cells.column), row: longer(cells.row), fetch: longer(cells.fetch) }; // prettier-ignore
      return { ...table, woodDistance: table.woodDistance.map((d, i) => ((i + but) % 97 === 50 ? 0 : d)) };
    };
    const beta = model.beta.slice();
    const cover = model.spec.terms.find((t) => t.name === 'cover')!;
    beta[cover.start] += 4;
    const on = dayFor(conditions({ surface: 19 }), frame);
    const summed = [0, 1, 2, 3, 5, 8].map((but) => {
      const table = many(9, but);
      const rates = new Rates({ ...model, beta, usualTotal: null }, table);
      const all = Array.from({ length: table.count }, (_, i) => i).filter((i) => !Number.isNaN(table.depth[i]));
      const mean = all.reduce((s, i) => s + (Math.exp(rates.of(i, on)) * table.area[i]) / 625, 0) / all.length;
      const sum = Math.exp(new DayTotal(new Design(model.spec, table), beta, table, zander).logMean(designDay(zander, on)));
      expect(sum / mean).to.be.within(0.95, 1.05);
      return sum;
    });
    expect(Math.max(...summed) / Math.min(...summed)).to.be.below(1.05);
  });
  it('has no skill on outcomes that mean nothing', () => {
    const forecast = predict(fitModel(zander, cells, certain(log(20, 100, 1, 3))), cells, day);
    const ratio = mean(forecast.probability, liked) / mean(forecast.probability, (i) => !liked(i));
    expect(ratio).to.be.within(0.6, 1.7);
  });
  it('does not depend on the order of the looks', () => {
    const looks = log(8, 60, 3, 4);
    const a = predict(fitModel(zander, cells, certain(looks)), cells, day);
    const b = predict(fitModel(zander, cells, certain([...looks].reverse())), cells, day);
    for (let i = 0; i < cells.count; i += 13) expect(b.probability[i]).to.be.closeTo(a.probability[i], 1e-6);
  });
  it('does not double the chance when the same water is scanned twice as thoroughly', () => {
    const looks = log(15, 100, 1, 5);
    const once = predict(fitModel(zander, cells, certain(looks)), cells, day);
    const more = looks.map((l) => ({ ...l, look: { ...l.look, effort: 1000 } }));
    const twice = predict(fitModel(zander, cells, certain(more)), cells, day);
    expect(mean(twice.probability) / mean(once.probability)).to.be.within(0.4, 0.6);
  });
  it('narrows with more data', () => {
    const width = (looks: FitLook[]): number => {
      const f = predict(fitModel(zander, cells, certain(looks)), cells, day);
      return mean(f.high.map((h, i) => Math.log(h / f.low[i])));
    };
    expect(width(log(40, 120, 3, 6))).to.be.below(width(log(5, 40, 3, 6)) * 0.8);
  });
});

describe('what a fit is worth on trips held out', () => {
  const card = (looks: FitLook[]) => validate(looks, zander, defaultSpecies, cells, frame, { folds: 3 })!;
  it('is clearly more than the strategies and the base rate where fish like a depth, the scores being of looks not seen', () => {
    const { made, verdict, stages } = card(log(12, 150, 8, 12, 0.06));
    expect(verdict).to.equal('better');
    const [trips] = made;
    expect([trips.held, trips.folds, trips.model.trips]).to.deep.equal(['trips', 3, 12]);
    expect(trips.model.auc).to.be.above(0.6);
    expect(trips.rivals['base rate'].modelBetterBy.low).to.be.above(0);
    expect(stages[0].stage).to.equal(null);
    expect(stages[0].strategies).to.have.length(STRATEGIES.length);
  });
  it('is not more where what was seen means nothing', () => expect(card(log(9, 150, 1, 13, 0.06)).verdict).to.not.equal('better'));
  it('is not said of a handful of trips', () => expect(validate(log(3, 40, 3, 14), zander, defaultSpecies, cells, frame)).to.equal(null));
});

describe('marks move the forecast', () => {
  const before = fitModel(zander, cells, certain(log(20, 100, 2, 7)));
  const [one, two, three] = HUMPS.map(([x, y]) => indexAt(x, y));
  const around = (i: number): number[] =>
    Array.from({ length: cells.count }, (_, j) => j).filter(
      (j) => Math.hypot(cells.column[i] - cells.column[j], cells.row[i] - cells.row[j]) <= 1.5,
    );
  const marks: FitLook[] = [
    // Three fish marked in three cells over the first hump, nothing in the cells about them.
    ...around(one).map((cell, k) => ({ look: look(cell, k % 4 === 0 ? 1 : 0), cell, trip: 20, day })),
    ...around(three).map((cell) => ({ look: look(cell, 0), cell, trip: 20, day })),
    ...[0, 1, 2].map(() => ({ look: look(three, 0, { kind: 'fish', effort: 0, area: 625 }), cell: three, trip: 20, day })),
  ];
  const after = fitModel(zander, cells, certain([...log(20, 100, 2, 7), ...marks]));
  const change = (i: number): number => predict(after, cells, day).probability[i] / predict(before, cells, day).probability[i];
  it('a hump with fish rises, a like one nobody marked rises less, one with blanks falls behind', () => {
    expect(change(one)).to.be.above(1.1);
    expect(change(two)).to.be.below(change(one));
    expect(change(two)).to.be.above(change(three));
    expect(change(three)).to.be.below(0.9 * change(two));
  });
});

const tideDay = (set: number, rate: number): Day => ({ ...day, stream: { set, rate } });

/** A fit of a log in which fish lie on the up-stream flanks of the humps, three times as often as behind them. */
function runningFit(): ReturnType<typeof fitModel> {
  const random = seeded(5);
  const looks: FitLook[] = [];
  for (let trip = 0; trip < 14; trip++) {
    const set = trip % 2 ? 90 : 270;
    const on = tideDay(set, 0.4 + 0.5 * random());
    for (let n = 0; n < 160; n++) {
      const [hx, hy] = HUMPS[Math.floor(random() * 3)];
      const side = random() < 0.5 ? -1 : 1;
      const cell = indexAt(hx + side * 40, hy + (random() - 0.5) * 60);
      const up = side === (set === 90 ? -1 : 1);
      looks.push({ look: look(cell, random() < (up ? 0.18 : 0.05) ? 1 : 0), cell, trip, day: on });
    }
  }
  return fitModel(zander, cells, certain(looks));
}

describe('what a forecast is made of', () => {
  const sameEitherWay = (made = fitModel(zander, cells, certain(log(10, 80, 3, 11)))): ReturnType<typeof fitModel> => {
    const model = made;
    // Soundings do not reach everywhere, and where they do nobody need have felt the bottom.
    const holey = {
      ...cells,
      depth: cells.depth.map((d, i) => (i % 11 ? d : NaN)),
      hardness: cells.hardness.map((h, i) => (i % 5 ? h : NaN)),
    };
    const kept = Math.round(Math.sqrt(model.covariance.length));
    const layered = conditions({ windFrom: 90, windSpeed: 8, surface: 23, thermoclineSet: { top: 4, bottom: 6 } });
    const runs = dayFor(conditions({ current: { set: 70, rate: 0.8 } }), frame);
    for (const on of [day, dayFor(layered, frame), dayFor(conditions({ windFrom: 200, windSpeed: 4, surface: 9 }), frame), runs]) {
      const f = predict(model, holey, on);
      const design = new Design(model.spec, holey);
      const today = designDay(zander, on);
      const shift = STAYING * (model.usualTotal! - new DayTotal(design, model.beta, holey, zander).logMean(today));
      const row = new SparseRow();
      for (let i = 0; i < cells.count; i += 7) {
        const residualPriorVariance = design.fill(row, i, today, 0, -1);
        let eta = design.prior(i, today) + Math.log(Math.max(1, cells.area[i]) / 625) + shift;
        let variance = residualPriorVariance / model.lambda.place + BEYOND_TERMS ** 2;
        for (let a = 0; a < row.n; a++) {
          eta += row.value[a] * model.beta[row.index[a]];
          for (let b = 0; b < row.n; b++) variance += row.value[a] * row.value[b] * model.covariance[row.index[a] * kept + row.index[b]];
        }
        const said = chanceOverTrips(eta, model.tripSpread);
        expect(f.probability[i] / said).to.be.closeTo(1, 0.01);
        const spread = 1.2815515655 * Math.sqrt(variance);
        expect(f.high[i] / chanceOverTrips(eta + spread, model.tripSpread)).to.be.closeTo(1, 0.01);
        expect(f.low[i] / chanceOverTrips(eta - spread, model.tripSpread)).to.be.closeTo(1, 0.01);
      }
    }
    return model;
  };
  it('is the same whether a day is put together from parts or added up cell by cell', () => void sameEitherWay());
  it('is so too where water runs, which has terms of its own there', () => {
    const still = fitModel(zander, cells, certain(log(10, 80, 3, 11)));
    const model = sameEitherWay(runningFit());
    expect(model.spec.running).to.equal(true);
    expect(still.spec.running).to.equal(false);
    // On a lake not a column more.
    const sides = (of: typeof model): number => of.spec.terms.find((t) => t.name === 'stream')!.count;
    expect([sides(model), sides(still)]).to.deep.equal([7, 0]);
  });
  it('does not run away beside a wall: no side is more than one, however steep and high', () => {
    const steep = { ...cells, positionNear: cells.positionNear.map(() => 12), riseEast: cells.riseEast.map(() => 3) };
    const sides = streamSides(new Float64Array(STREAM_SIDES.length), steep, 0, { set: 90, rate: 3 });
    for (const side of sides) expect(Math.abs(side)).to.be.at.most(1);
    expect(sides[STREAM_SIDES.indexOf('on a rise')]).to.be.above(0.9);
  });
  it('learns on which side of a rise fish lie as the stream turns: the up-stream one, whichever way it sets', () => {
    const model = runningFit();
    for (const set of [90, 270]) {
      const f = predict(model, cells, tideDay(set, 0.8));
      // The flanks of the first hump, west and east.
      const [hx, hy] = HUMPS[0];
      const [west, east] = [indexAt(hx - 40, hy), indexAt(hx + 40, hy)];
      const ratio = f.probability[west] / f.probability[east];
      expect(set === 90 ? ratio : 1 / ratio).to.be.above(1.8);
    }
    const slack = predict(model, cells, tideDay(90, 0));
    const [hx, hy] = HUMPS[0];
    expect(slack.probability[indexAt(hx - 40, hy)] / slack.probability[indexAt(hx + 40, hy)]).to.be.within(0.7, 1.4);
    const told = reasonsAt(model, cells, tideDay(90, 0.8), indexAt(hx - 40, hy)).find((r) => r.factor === 'current')!;
    expect([told.says.code, told.effect > 0]).to.deep.equal(['reason.current.up', true]);
  });
  it('a further number of the day is one declaration: design, fit, prediction, total of the day and reasons follow', () => {
    const before = sameEitherWay();
    const dayLength = (on: Day): number => Math.cos((2 * Math.PI * (on.conditions.at.getTime() / 86_400_000 - 171)) / 365.25);
    DEPTH_BY_DAY.push({
      name: 'depth by day length',
      of: dayLength,
      varies: 'depth',
      penalty: 'ridge',
      prior: 2,
      carries: 'depth',
      explains: 'depth',
    });
    try {
      const after = sameEitherWay();
      expect(after.spec.columns).to.equal(before.spec.columns + before.spec.splines.depthCoarse.count);
      expect(after.lambda['depth by day length']).to.be.above(0);
      expect(designDay(zander, day).numbers).to.have.length(DEPTH_BY_DAY.length);
    } finally {
      DEPTH_BY_DAY.pop();
    }
  });
  it('integrates the spread between trips over', () => {
    expect(chanceOverTrips(Math.log(0.1), 0)).to.be.closeTo(1 - Math.exp(-0.1), 1e-9);
    expect(chanceOverTrips(Math.log(0.1), 0.8)).to.be.above(chanceOverTrips(Math.log(0.1), 0));
  });
  it('survives packing, and brings the strategies that it was made with', () => {
    const set = { ...zander, strategies: { 'depth.weight': 0.1, 'depth.tolerance': 2 } };
    const looks = certain(log(4, 30, 2, 8));
    const model = fitModel(set, cells, looks);
    const back = unpackModel(packModel(model));
    expect(predict(back, cells, day).probability).to.deep.equal(predict(model, cells, day).probability);
    expect(back.profile).to.deep.equal(set);
    const otherwise = predict({ ...model, profile: zander }, cells, day).probability;
    expect(predict(back, cells, day).probability).not.to.deep.equal(otherwise);
  });
  it('keeps the holding depth inside the water and the interval round the chance', () => {
    const f = predict(fitModel(zander, cells, certain(log(10, 60, 3, 9))), cells, day);
    for (let i = 0; i < cells.count; i++) {
      expect(f.depthTop[i]).to.be.at.most(f.depthBottom[i]);
      expect(f.depthBottom[i]).to.be.at.most(Math.max(0.3, cells.depth[i]) + 0.2);
      expect(f.low[i]).to.be.at.most(f.probability[i]);
      expect(f.high[i]).to.be.at.least(f.probability[i]);
    }
  });
  it('gives places apart from each other, best first, each with reasons', () => {
    const model = fitModel(zander, cells, certain(log(10, 60, 3, 10)));
    const places = bestPlaces(model, cells, day, predict(model, cells, day), new Map());
    expect(places).to.have.length(10);
    places.forEach((p, k) => {
      expect(p.reasons.length).to.be.above(0);
      if (k) expect(p.probability).to.be.at.most(places[k - 1].probability);
      for (const q of places.slice(0, k)) expect(Math.hypot(p.x - q.x, p.y - q.y)).to.be.at.least(119);
    });
  });
  it('the wind moves the prior to the shore it blows on to', () => {
    const east = indexAt(501400, 300);
    const west = indexAt(500100, 300);
    const at = (windFrom: number, i: number): number =>
      combinedScore(strategyDay(zander, dayFor(conditions({ windFrom, windSpeed: 8 }), frame)), cells, i);
    expect(at(270, east) - at(90, east)).to.be.above(0.1);
    expect(at(90, west) - at(270, west)).to.be.above(0.1);
  });
});

describe('conditions from the log', () => {
  const reading = (time: string, more: Partial<Reading>) => ({
    at: Date.parse(time),
    row: { surface_temperature_c: null, secchi_m: null, wind_from_deg: null, wind_speed_ms: null, ...more } as Reading,
  });
  it('takes the latest of each, never a later one, and says what was missing', () => {
    const readings = [
      reading('2026-07-01T08:00:00Z', { surface_temperature_c: 18, secchi_m: 2.1 }),
      reading('2026-07-10T08:00:00Z', { surface_temperature_c: 20 }),
      reading('2026-07-12T08:00:00Z', { surface_temperature_c: 25 }),
    ];
    const { conditions: c, said } = conditionsFromLog(readings, new Date('2026-07-10T12:00:00Z'), frame);
    expect([c.surface, c.secchi, c.windSpeed]).to.deep.equal([20, 2.1, 0]);
    expect(c.trend).to.be.closeTo(2 / 9, 1e-6);
    expect(said).to.deep.equal([{ code: 'carried.wind', values: {} }]);
  });
  it('models what nobody read', () => {
    const summer = conditionsFromLog([], new Date('2026-07-25T12:00:00Z'), frame);
    const winter = conditionsFromLog([], new Date('2026-01-25T12:00:00Z'), frame);
    expect(summer.conditions.surface).to.be.within(14, 22);
    expect(winter.conditions.surface).to.be.within(0, 5);
    expect(summer.said.map((s) => s.code)).to.include('carried.surface.usual');
  });
  it('groups profile rows into casts', () => {
    const row = (profile: string, depth_m: number) => ({
      trip: 'A',
      profile,
      time: '2026-07-10T08:00:00Z',
      depth_m,
      temperature_c: 20 - depth_m,
      oxygen_mg_l: null,
    });
    expect(groupProfiles([row('a', 2), row('a', 0), row('b', 1)]).map((c) => c.samples.length)).to.deep.equal([2, 1]);
  });
});
