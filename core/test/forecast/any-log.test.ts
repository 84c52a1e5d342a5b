import { expect } from 'chai';
import fc from 'fast-check';
import {
  bestPlaces,
  borrowFrom,
  dayFor,
  fitModel,
  packModel,
  Predictor,
  predict,
  speciesOdds,
  unpackModel,
  validate,
  type Day,
  type FitLook,
} from '../../src/forecast';
import { VIEWS } from '../../src/logbook';
import { defaultSpecies } from '../../src/species';
import { cells, conditions, frame, look, zander } from '../support/planted-log';
import { seenTarget } from '../support/seen-target';

// Logs as they come: one trip, no fish, one name for all, names nobody knows, a scan of a metre or of a sea. Whatever
// is in them, odds are odds, chances are chances, and what is not known is not a number that looks like one.

const share = fc.double({ min: 0, max: 1, noNaN: true });
const target = fc.record({
  kind: fc.constantFrom('fish', 'fish', 'fish', 'bait', 'cover'),
  species: fc.constantFrom('zander', 'zander', 'pikeperch', 'perch', 'pike', 'fish of no name', null),
  named: fc.constantFrom('zander', 'perch', 'pike', null),
  alsoNamed: fc.subarray(['zander', 'perch']),
  confidence: fc.option(share),
  stated: fc.option(share),
  confirmed: fc.constantFrom('none' as const, 'none' as const, 'catch' as const, 'sight' as const),
  size: fc.constantFrom('small', 'large', null),
  count: fc.constantFrom(0, 1, 4, 900),
  top: fc.option(fc.double({ min: 0, max: 15, noNaN: true })),
  form: fc.constantFrom('arches', 'specks', null),
  core: fc.constantFrom('weak', 'strong', null),
});
const anyDay = fc
  .record({
    at: fc.date({ min: new Date('2024-01-01'), max: new Date('2026-12-31'), noInvalidDate: true }),
    surface: fc.double({ min: -0.5, max: 34, noNaN: true }),
    trend: fc.double({ min: -2, max: 2, noNaN: true }),
    secchi: fc.double({ min: 0.05, max: 30, noNaN: true }),
    windFrom: fc.double({ min: 0, max: 360, noNaN: true }),
    windSpeed: fc.double({ min: 0, max: 35, noNaN: true }),
  })
  .map((c) => dayFor(conditions(c), frame));
const anyLook = fc.record({
  cell: fc.nat(cells.count - 1),
  visit: fc.nat(2),
  kind: fc.constantFrom('scan' as const, 'scan' as const, 'fish' as const, 'troll' as const),
  effort: fc.oneof(fc.double({ min: 0, max: 625, noNaN: true }), fc.constantFrom(0, 1e-6, 1e5)),
  view: fc.constantFrom(...VIEWS, null),
  reach: fc.constantFrom(0, 3, 30, 400, null),
  minutes: fc.nat(500),
  targets: fc.tuple(fc.nat(4), fc.array(target, { maxLength: 3 })).map(([nothing, seen]) => (nothing ? [] : seen)),
});
const anyLog: fc.Arbitrary<FitLook[]> = fc.array(fc.tuple(anyDay, fc.array(anyLook, { maxLength: 40 })), { maxLength: 14 }).map((trips) => {
  let marks = 0;
  return trips.flatMap(([day, looks], trip) =>
    looks.map(({ cell, minutes, targets, ...rest }): FitLook => {
      const from = Date.UTC(2026, 3, 1 + 9 * trip, 6) + minutes * 60_000;
      const seen = targets.map((t) => seenTarget({ ...t, target: `m${++marks}`, at: from, bottom: t.top === null ? null : t.top + 1 }));
      return { look: look(cell, 0, { ...rest, from, to: from + 60_000, targets: seen }), cell, trip, day };
    }),
  );
});

const chances = (values: ArrayLike<number>): void => {
  for (let i = 0; i < values.length; i++) expect(values[i]).to.be.within(0, 1);
};

const isOne = (): fc.IProperty<[FitLook[], Day]> =>
  fc.property(anyLog, anyDay, (log, day) => {
    const looks = speciesOdds(log, zander, defaultSpecies, cells);
    for (const l of looks) {
      expect(l.odds.length).to.equal(l.look.targets.length);
      chances(l.odds);
    }
    const model = fitModel(zander, cells, looks);
    expect(model.beta.every(Number.isFinite)).to.equal(true);
    expect(model.tripSpread).to.be.within(0, 3);
    const forecast = predict(model, cells, day);
    for (const name of ['probability', 'low', 'high'] as const) chances(forecast[name]);
    for (let i = 0; i < cells.count; i++) {
      expect(forecast.low[i]).to.be.at.most(forecast.probability[i]);
      expect(forecast.high[i]).to.be.at.least(forecast.probability[i]);
      expect(forecast.depthTop[i]).to.be.at.most(forecast.depthBottom[i]);
    }
    const hours = log.reduce((sum, l) => sum + (l.look.kind === 'fish' ? l.look.effort / 60 : 0), 0);
    for (const place of bestPlaces(model, cells, day, forecast, new Map())) {
      if (hours < 5) expect(place.fishing).to.equal(null);
      else expect(place.fishing).to.be.within(0, 1);
      for (const { effect, says } of place.reasons) {
        expect(Number.isFinite(effect)).to.equal(true);
        expect(JSON.stringify(says)).to.not.match(/null|Infinity/);
      }
    }
    // Chances alone are the same chances.
    expect(new Predictor(model, cells).chances(day)).to.deep.equal(forecast.probability);
    expect(predict(unpackModel(packModel(model)), cells, day).probability).to.deep.equal(forecast.probability);
    const borrowed = borrowFrom(model, 'Other mere');
    if (borrowed) chances(predict(fitModel(zander, cells, [], { borrowed }), cells, day).probability);
    const card = validate(log, zander, defaultSpecies, cells, frame);
    if (card) expect(JSON.stringify(card)).to.not.include('NaN');
  });

describe('a forecast from any log', () => {
  it('is one: odds, chances and depths within what they can be, packed and unpacked the same, scored or not scored', () =>
    fc.assert(isOne(), { numRuns: 6 }));
  it('is one too where a number of the day is too small for what rows are kept in', () =>
    fc.assert(isOne(), { numRuns: 1, seed: 1290797 }));
});
