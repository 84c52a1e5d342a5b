import {
  fitModel,
  hotSpots,
  logEffort,
  predict,
  schoolDay,
  schoolScore,
  seenChance,
  combinedScore,
  speciesOdds,
  SCHOOLS,
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
// rate), the schools combined, each school alone, hot spots of the log.

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
  const scorers: [string, (day: ReturnType<typeof schoolDay>, cell: number) => number][] = [
    ['base rate', () => 0],
    ['schools', (day, cell) => combinedScore(day, cells, cell)],
    ['hot spots', (_, cell) => Math.log(Math.max(1e-9, spots[cell]))],
    ...SCHOOLS.map((school): [string, (day: ReturnType<typeof schoolDay>, cell: number) => number] => [
      school,
      (day, cell) => schoolScore(school, day, cells, cell),
    ]),
  ];
  const seen = scans.reduce((s, l) => s + seenChance(l), 0) + 0.5;
  const days0 = new Map<object, ReturnType<typeof schoolDay>>();
  const dayOf = (day: TestDay['day']): ReturnType<typeof schoolDay> => {
    let d = days0.get(day);
    if (!d) days0.set(day, (d = schoolDay(species, day)));
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
for (const { name, seed, scenario, species } of cases) {
  const water = makeWater(seed, scenario);
  console.log(
    `${name}: ${water.cells.count} cells, deepest ${water.frame.deepest.toFixed(0)} m, ${water.trips.length} trips, ${water.trips.flat().length} looks`,
  );
  for (const fish of species) {
    const profile = profileNamed(fish);
    const days = testDays(water, fish, DAYS, DRAWS);
    const known = days.map((d) => d.known);
    const schoolsAlone = fitModel(profile, water.cells, []);
    const forecasts = (model: typeof schoolsAlone): Forecast[] => days.map((d) => predict(model, water.cells, d.day));
    const said = (model: typeof schoolsAlone): Float32Array[] => forecasts(model).map((f) => f.probability);
    const before = waterScore(said(schoolsAlone), known);
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
      const combined = others.find(([rival]) => rival === 'schools')![1];
      if (trips === 60) {
        console.log(
          `    truly marked over what one who knows the rules expects of the same scans: ${luckOfLog(water, fish, LUCK_DRAWS).toFixed(2)}`,
        );
        others.forEach(([rival, s]) => console.log(line(rival, s)));
        const best = Math.max(before.logScore, ...others.map(([, s]) => s.logScore));
        skills.push(own.skill);
        results.push(held(`${name}, ${fish}: better than every rival by`, 1000 * (own.logScore - best), '>=', 1e-9, ' millinats'));
        results.push(held(`${name}, ${fish}: way to the one who knows`, own.skill, '>=', 0.35));
        results.push(held(`${name}, ${fish}: expected over true`, own.expectedOverTrue, '>=', 0.85));
        results.push(held(`${name}, ${fish}: expected over true`, own.expectedOverTrue, '<=', 1.15));
        results.push(held(`${name}, ${fish}: slope`, own.slope, '>=', 0.8));
        results.push(held(`${name}, ${fish}: slope`, own.slope, '<=', 1.25));
        results.push(held(`${name}, ${fish}: decile error`, own.decileError, '<=', 0.25));
      } else {
        console.log(line('schools', combined));
        console.log(line('no log', before));
        const worse = Math.max(before.logScore, combined.logScore) - own.logScore;
        results.push(held(`${name}, ${fish}, 5 trips: worse than the schools by`, 1000 * worse, '<=', 1, ' millinats'));
      }
    }
  }
}
skills.sort((a, b) => a - b);
results.push(held('median way to the one who knows', skills[Math.floor(skills.length / 2)], '>=', 0.6));
console.log(`peak memory ${peakMemory()} MB`);
finish(results);
