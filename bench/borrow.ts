import { borrowFrom, fitModel, predict, speciesOdds, type Borrowed } from '@restless-shoal/core/forecast';
import { defaultSpecies } from '@restless-shoal/core/species';
import { SECOND_WATER } from '@restless-shoal/demo';
import { fitLooksOf, makeWater, profileNamed, testDays } from './made-water';
import { finish, held } from './support';
import { waterScore } from './water-score';

// What a second water gains that starts from the fit of a first one with the same fish and another shape: the way from
// a constant to the one who knows, without and with it, by how many trips the second one has of its own.

const DAYS = 10;
const DRAWS = 20;

const first = makeWater(8, undefined);
const second = makeWater(SECOND_WATER.seed, SECOND_WATER.scenario);
const results: boolean[] = [];
for (const fish of ['zander', 'perch', 'pike']) {
  const profile = profileNamed(fish);
  const taught = fitModel(profile, first.cells, speciesOdds(fitLooksOf(first), profile, defaultSpecies, first.cells));
  const source = borrowFrom(taught, first.made.world.name)!;
  const days = testDays(second, fish, DAYS, DRAWS);
  const known = days.map((d) => d.known);
  for (const trips of [0, 5, 15]) {
    const own = { ...second, trips: trips ? second.trips.filter((_, k) => k % (60 / trips) === 3) : [] };
    const looks = speciesOdds(fitLooksOf(own), profile, defaultSpecies, second.cells);
    const way = (borrowed: Borrowed | null): number => {
      const model = fitModel(profile, second.cells, looks, { borrowed });
      return waterScore(
        days.map((d) => predict(model, second.cells, d.day).probability),
        known,
      ).skill;
    };
    const [alone, begun] = [way(null), way(source)];
    console.log(
      `${fish}, ${trips} trips: ${(100 * alone).toFixed(0)} % of the way alone, ${(100 * begun).toFixed(0)} % begun from the first water`,
    );
    results.push(held(`${fish}, ${trips} trips: gain`, begun - alone, '>=', 0));
  }
}
finish(results);
