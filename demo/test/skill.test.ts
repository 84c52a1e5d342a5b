import { expect } from 'chai';
import { fitModel, predict, speciesOdds } from '@restless-shoal/core/forecast';
import { defaultSpecies } from '@restless-shoal/core/species';
import { fitLooksOf, makeWater, profileNamed, testDays } from '../../bench/made-water';
import { waterScore } from '../../bench/water-score';
import { drawnScenario } from '../src';

// A small version of the bench of skill: one water, few trips and days.
describe('a forecast of a made-up water', () => {
  it('beats the strategies and a constant on days to come, and says about as much as is there', function () {
    this.timeout(240_000);
    const water = makeWater(42, drawnScenario(42, 'bowl'), 12);
    const pike = profileNamed('pike');
    const days = testDays(water, 'pike', 4, 5);
    const known = days.map((d) => d.known);
    const score = (model: ReturnType<typeof fitModel>): ReturnType<typeof waterScore> =>
      waterScore(
        days.map((d) => predict(model, water.cells, d.day).probability),
        known,
      );
    const own = score(fitModel(pike, water.cells, speciesOdds(fitLooksOf(water), pike, defaultSpecies, water.cells)));
    const strategies = score(fitModel(pike, water.cells, []));
    expect(own.logScore).to.be.above(strategies.logScore);
    expect(own.skill).to.be.within(0.35, 1);
    expect(own.expectedOverTrue).to.be.within(0.6, 1.6);
    expect(own.slope).to.be.within(0.6, 1.7);
    // Who knows the rules is ahead of everybody, or the yardstick is bent.
    expect(waterScore(known, known).logScore).to.be.above(own.logScore);
  });
});
