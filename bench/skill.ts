import {
  fitModel,
  hotSpots,
  logEffort,
  predict,
  strategyDay,
  strategyScore,
  seenChance,
  combinedScore,
  speciesOdds,
  STRATEGIES,
  type CellTally,
  type Forecast,
  type SpeciesLook,
} from '@restless-shoal/core/forecast';
import { defaultSpecies } from '@restless-shoal/core/species';
import { FURTHER_WATERS } from '@restless-shoal/demo';
import { fitLooksOf, luckOfLog, makeWater, profileNamed, testDays, type MadeWater, type TestDay } from './made-water';
import { finish, held, peakMemory } from './support';
import { coverage, waterScore, type WaterScore } from './water-score';

// What the forecast is worth on made-up waters: the demo's, and three of other shapes with other fish that nothing was
// tuned on. Scored on the whole water, on days of the season after the log, against the chance that one would give who
// knows the rules of the fish and their lasting places but not the day's own draws. Rivals: a constant (the log's base
// rate), the strategies combined, each strategy alone, hot spots of the log.

const DAYS = 12;
const DRAWS = 25;
/** Of each trip of the log, for what luck it had. */
const LUCK_DRAWS = 10;

interface Case {
  name: string;
  seed: number;
  scenario?: (typeof FURTHER_WATERS)[number]['scenario'];
  species: string[];
}

const cases: Case[] = [
  { name: 'demo', seed: 8, species: ['zander', 'perch', 'pike'] },
  ...FURTHER_WATERS.map(({ seed, scenario, species }) => ({ name: `${scenario.shape} ${seed}`, seed, scenario, species })),
];

/** Every rival as log rates by cell and day, its level such that as many are expected on the log's scans as were seen. */
function rivals(
  water: MadeWater,
  looks: SpeciesLook[],
  species: ReturnType<typeof profileNamed>,
  days: TestDay[],
): Map<string, Float64Array[]> {
  const { cells } = water;
  const scans = looks.filter((l) => l.look.kind === 'scan');
  const tally = (): CellTally => ({ seen: new Float64Array(cells.count), effort: new Float64Array(cells.count) });
  const halves: [CellTally, CellTally] = [tally(), tally()];
  for (const l of scans) {
    halves[l.trip % 2].seen[l.cell] += seenChance(l);
    halves[l.trip % 2].effort[l.cell] += Math.exp(logEffort(l.look));
  }
  const spots = hotSpots(halves, cells);
  const scorers: [string, (day: ReturnType<typeof strategyDay>, cell: number) => number][] = [
    ['base rate', () => 0],
    ['strategies', (day, cell) => combinedScore(day, cells, cell)],
    ['hot spots', (_, cell) => Math.log(Math.max(1e-9, spots[cell]))],
    ...STRATEGIES.map((strategy): [string, (day: ReturnType<typeof strategyDay>, cell: number) => number] => [
      strategy,
      (day, cell) => strategyScore(strategy, day, cells, cell),
    ]),
  ];
  const seen = scans.reduce((s, l) => s + seenChance(l), 0) + 0.5;
  const days0 = new Map<object, ReturnType<typeof strategyDay>>();
  const dayOf = (day: TestDay['day']): ReturnType<typeof strategyDay> => {
    let d = days0.get(day);
    if (!d) days0.set(day, (d = strategyDay(species, day)));
    return d;
  };
  return new Map(
    scorers.map(([name, score]) => {
      const level = Math.log(seen / scans.reduce((s, l) => s + Math.exp(score(dayOf(l.day), l.cell) + logEffort(l.look)), 0));
      return [
        name,
        days.map(({ day }) => {
          const today = dayOf(day);
          return Float64Array.from(
            { length: cells.count },
            (_, i) => -Math.expm1((-Math.exp(level + score(today, i)) * cells.area[i]) / 625),
          );
        }),
      ];
    }),
  );
}

const line = (name: string, s: WaterScore): string =>
  `    ${name.padEnd(12)} log score ${s.logScore.toFixed(5)}, ${(100 * s.skill).toFixed(0).padStart(4)} % of the way, expected over true ${s.expectedOverTrue.toFixed(2)}, slope ${s.slope.toFixed(2)}, decile error ${s.decileError.toFixed(2)} of the mean`;

const results: boolean[] = [];
const skills: number[] = [];
/** Over all fish, by how many trips were logged: log of expected over true, share of the true chances in the interval, and how much better than the strategies. */
const short = new Map<number, { level: number[]; held: number[]; better: number[] }>();
/** Of 60 trips: log of expected over true with the luck of the log taken off. */
const levels: number[] = [];

/** Every how many trips are taken, and from which on, for a log of so many. */
const SHORT: [trips: number, every: number, from: number[]][] = [
  [10, 6, [3]],
  [3, 20, [3, 11]],
  [1, 60, [3, 21, 40]],
];
for (const { name, seed, scenario, species } of cases) {
  const water = makeWater(seed, scenario);
  console.log(
    `${name}: ${water.cells.count} cells, deepest ${water.frame.deepest.toFixed(0)} m, ${water.trips.length} trips, ${water.trips.flat().length} looks`,
  );
  for (const fish of species) {
    const profile = profileNamed(fish);
    const days = testDays(water, fish, DAYS, DRAWS);
    const known = days.map((d) => d.known);
    const strategiesAlone = fitModel(profile, water.cells, []);
    const forecasts = (model: typeof strategiesAlone): Forecast[] => days.map((d) => predict(model, water.cells, d.day));
    const said = (model: typeof strategiesAlone): Float32Array[] => forecasts(model).map((f) => f.probability);
    const before = waterScore(said(strategiesAlone), known);
    for (const [trips, every, starts] of SHORT)
      for (const start of starts) {
        const few = { ...water, trips: water.trips.filter((_, k) => k % every === start) };
        const looks = speciesOdds(fitLooksOf(few), profile, defaultSpecies, water.cells);
        const made = forecasts(fitModel(profile, water.cells, looks));
        const own = waterScore(
          made.map((f) => f.probability),
          known,
        );
        const combined = waterScore(rivals(few, looks, profile, days).get('strategies')!, known);
        const entry = short.get(trips) ?? { level: [], held: [], better: [] };
        entry.level.push(Math.log(own.expectedOverTrue));
        entry.held.push(coverage(made, known).fish);
        entry.better.push(1000 * (own.logScore - combined.logScore));
        short.set(trips, entry);
      }
    for (const trips of [60, 5]) {
      const few = trips === 60 ? water : { ...water, trips: water.trips.filter((_, k) => k % 12 === 3) };
      const looks = speciesOdds(fitLooksOf(few), profile, defaultSpecies, water.cells);
      const made = forecasts(fitModel(profile, water.cells, looks));
      const own = waterScore(
        made.map((f) => f.probability),
        known,
      );
      const held80 = coverage(made, known);
      console.log(`  ${fish}, ${trips} trips`);
      console.log(line('forecast', own));
      console.log(
        `    80 % intervals held the true chance in ${(100 * held80.cells).toFixed(0)} % of the cells, ${(100 * held80.fish).toFixed(0)} % where cells count by it`,
      );
      const others = [...rivals(few, looks, profile, days)].map(([rival, chances]): [string, WaterScore] => [
        rival,
        waterScore(chances, known),
      ]);
      const combined = others.find(([rival]) => rival === 'strategies')![1];
      if (trips === 60) {
        const luck = luckOfLog(water, fish, LUCK_DRAWS);
        console.log(`    truly marked over what one who knows the rules expects of the same scans: ${luck.toFixed(2)}`);
        levels.push(Math.log(own.expectedOverTrue / luck));
        others.forEach(([rival, s]) => console.log(line(rival, s)));
        const best = Math.max(before.logScore, ...others.map(([, s]) => s.logScore));
        skills.push(own.skill);
        results.push(held(`${name}, ${fish}: better than every rival by`, 1000 * (own.logScore - best), '>=', 1e-9, ' millinats'));
        results.push(held(`${name}, ${fish}: skill`, own.skill, '>=', 0.35));
        results.push(held(`${name}, ${fish}: slope`, own.slope, '>=', 0.8));
        results.push(held(`${name}, ${fish}: slope`, own.slope, '<=', 1.25));
        results.push(held(`${name}, ${fish}: decile error`, own.decileError, '<=', 0.25));
      } else {
        console.log(line('strategies', combined));
        console.log(line('no log', before));
        const worse = Math.max(before.logScore, combined.logScore) - own.logScore;
        results.push(held(`${name}, ${fish}, 5 trips: worse than the strategies by`, 1000 * worse, '<=', 1, ' millinats'));
      }
    }
  }
}
const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
for (const [trips, { level, held: inside, better }] of [...short].sort((a, b) => a[0] - b[0])) {
  console.log(
    `${trips} trips, ${level.length} logs: expected over true ${Math.exp(mean(level)).toFixed(2)} in the mean (${level.map((v) => Math.exp(v).toFixed(2)).join(' ')})`,
  );
  results.push(held(`${trips} trips: expected over true in the mean`, Math.exp(mean(level)), '>=', 0.8));
  results.push(held(`${trips} trips: expected over true in the mean`, Math.exp(mean(level)), '<=', 1.25));
  results.push(held(`${trips} trips: share of the true chances in 80 % intervals`, mean(inside), '>=', 0.75));
  results.push(held(`${trips} trips: share of the true chances in 80 % intervals`, mean(inside), '<=', 0.85));
  results.push(
    held(`${trips} trips: better than the strategies with the log’s own rate, least in millinats`, Math.min(...better), '>=', -1),
  );
}
const centre = mean(levels);
const spread = Math.sqrt(mean(levels.map((v) => (v - centre) ** 2)));
results.push(held('60 trips: mean log of expected over true, the luck of the log taken off', Math.abs(centre), '<=', 0.05));
results.push(held('60 trips: its spread', spread, '<=', 0.08));
skills.sort((a, b) => a - b);
results.push(held('median way to the one who knows', skills[Math.floor(skills.length / 2)], '>=', 0.65));
results.push(held('least way to the one who knows', skills[0], '>=', 0.45));
console.log(`peak memory ${peakMemory()} MB`);
finish(results);
