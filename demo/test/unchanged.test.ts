import { expect } from 'chai';
import { bestPlaces, fitModel, predict, speciesOdds, windowOn } from '@restless-shoal/core/forecast';
import { defaultSpecies } from '@restless-shoal/core/species';
import { fitLooksOf, makeWater, profileNamed, testDays } from '../../bench/made-water';
import { drawnScenario } from '../src';

/**
 * What one made-up water gives from its soundings to its best places: a change of the code that is not meant to change an
 * answer leaves these as they are. Who changes one on purpose writes the new ones here, and says why. (These are of side-scan
 * ranges as slant ranges, in the log that is made up and in its looks; and of graded depth windows, other climates, and a level
 * with a prior of its own.)
 */
const REFERENCE: Record<string, number> = {
  cells: 9128,
  depth: 4.396,
  hardness: 0.3382,
  slope: 0.01567,
  looks: 7007,
  contacts: 59.52,
  spread: 0.376,
  lambdaDepth: 2.71,
  lambdaPlace: 2.411,
  windowTop: 0,
  windowBottom: 8.123,
  chance: 0.008215,
  low: 0.002352,
  high: 0.02954,
  depthTop: 1.93,
  depthBottom: 3.899,
  place0: 0.1152,
  place0Reasons: 3.623,
  place1: 0.08157,
  place1Reasons: 3.215,
  place2: 0.08132,
  place2Reasons: 3.256,
};

/** Digits that two machines agree in. */
const DIGITS = 4;

describe('the answers of a made-up water', () => {
  it('are those that they were', function () {
    this.timeout(240_000);
    const water = makeWater(42, drawnScenario(42, 'bowl'), 12);
    const { cells } = water;
    const pike = profileNamed('pike');
    const { day } = testDays(water, 'pike', 1, 1)[0];
    const model = fitModel(pike, cells, speciesOdds(fitLooksOf(water), pike, defaultSpecies, cells));
    const forecast = predict(model, cells, day);
    const window = windowOn(pike, day);
    const places = bestPlaces(model, cells, day, forecast, new Map(), 3);
    const mean = (list: ArrayLike<number>): number => {
      const known = Array.from(list).filter((v) => !Number.isNaN(v));
      return known.reduce((s, v) => s + v, 0) / known.length;
    };
    const found: Record<string, number> = {
      cells: cells.count,
      depth: mean(cells.depth),
      hardness: mean(cells.hardness),
      slope: mean(cells.slope),
      looks: model.stats.looks,
      contacts: model.stats.contacts,
      spread: model.tripSpread,
      lambdaDepth: model.lambda.depth,
      lambdaPlace: model.lambda.place,
      windowTop: window.top,
      windowBottom: window.bottom,
      chance: mean(forecast.probability),
      low: mean(forecast.low),
      high: mean(forecast.high),
      depthTop: mean(forecast.depthTop),
      depthBottom: mean(forecast.depthBottom),
    };
    places.forEach((p, k) => {
      found[`place${k}`] = p.probability;
      found[`place${k}Reasons`] = p.reasons.reduce((s, r) => s + r.effect, 0);
    });
    const rounded = (of: Record<string, number>): Record<string, number> =>
      Object.fromEntries(Object.entries(of).map(([key, v]) => [key, Number(v.toPrecision(DIGITS))]));
    expect(rounded(found)).to.deep.equal(REFERENCE);
  });
});
