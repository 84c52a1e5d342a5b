import { cellsAtLevel } from '@restless-shoal/core/chart';
import { atTheirLevels, fitModel, predict, speciesOdds, type Day, type FitLook } from '@restless-shoal/core/forecast';
import { defaultSpecies } from '@restless-shoal/core/species';
import { sunHeight } from '@restless-shoal/core/lake';
import { SOUND } from '@restless-shoal/demo';
import {
  fitLooksOf,
  knownOn,
  luckOfLog,
  makeWater,
  profileNamed,
  testDays,
  usualDetection,
  type MadeWater,
  type TestDay,
} from './made-water';
import { finish, held, peakMemory } from './support';
import { waterScore, type WaterScore } from './water-score';

// What the state of the tide is worth to the forecast on made-up sounds of other seeds than the demo's: skill on days of the
// season after the log against one who knows the rules, the same with the tide taken out of the fit, and what one loses who
// knows all the rules but not the hour of the tide. A fit without the tide should lose about as much as that.

const SEEDS = process.env.SEEDS?.split(',').map(Number) ?? [21, 22, 23];
const FISH = ['pollack', 'cod', 'sea bass'];
const DAYS = 16;
const DRAWS = 15;
/** Hours by which a day's tide is shifted for the one who does not know it. */
const PHASES = [0, 1.55, 3.1, 4.65, 6.2, 7.75, 9.3, 10.85];

const without = (day: Day): Day => ({ ...day, stream: null, tide: null });

/** Chances of days by a fit, each at its level. */
function said(water: MadeWater, looks: FitLook[], fish: string, days: TestDay[], tide: boolean): Float32Array[] {
  const profile = profileNamed(fish);
  const kept = new Map<Day, Day>();
  const dayOf = (day: Day): Day => {
    if (tide) return day;
    let own = kept.get(day);
    if (!own) kept.set(day, (own = without(day)));
    return own;
  };
  const moved = atTheirLevels(
    water.cells,
    looks.map((l) => ({ ...l, day: dayOf(l.day) })),
  );
  const model = fitModel(profile, moved.cells, speciesOdds(moved.looks, profile, defaultSpecies, moved.cells));
  return days.map(({ day }) => predict(model, cellsAtLevel(water.cells, day.level), dayOf(day)).probability);
}

/** What one expects who knows the rules, but not the hour of the tide: the mean over the hours of a tide. */
function withoutHour(water: MadeWater, fish: string, days: TestDay[]): Float64Array[] {
  const detect = usualDetection(water, fish);
  const { frame } = water;
  return days.map(({ day }, k) => {
    const at = day.conditions.at.getTime();
    const sun = sunHeight(day.conditions.at, frame.latitude, frame.longitude);
    const mean = new Float64Array(water.cells.count);
    for (const hours of PHASES) {
      const known = knownOn(water, fish, at + hours * 3_600_000, sun, detect, DRAWS, k);
      for (let i = 0; i < mean.length; i++) mean[i] += known[i] / PHASES.length;
    }
    return mean;
  });
}

const line = (name: string, s: WaterScore): void =>
  console.log(
    `    ${name.padEnd(28)} log score ${s.logScore.toFixed(5)}, ${(100 * s.skill).toFixed(0).padStart(4)} % of the way, expected over true ${s.expectedOverTrue.toFixed(2)}, slope ${s.slope.toFixed(2)}`,
  );

const results: boolean[] = [];
const skills: number[] = [];
const [lost, should]: [number[], number[]] = [[], []];
for (const seed of SEEDS) {
  const water = makeWater(seed, SOUND);
  const looks = fitLooksOf(water);
  console.log(`sound ${seed}: ${water.cells.count} cells, deepest ${water.frame.deepest.toFixed(0)} m, ${looks.length} looks`);
  for (const fish of FISH) {
    const days = testDays(water, fish, DAYS, DRAWS);
    const known = days.map((d) => d.known);
    const own = waterScore(said(water, looks, fish, days, true), known);
    const plain = waterScore(said(water, looks, fish, days, false), known);
    const blind = waterScore(withoutHour(water, fish, days), known);
    console.log(`  ${fish}`);
    line('forecast', own);
    line('without the tide', plain);
    line('knows all but the hour', blind);
    console.log(`    truly marked over what one who knows the rules expects of the same scans: ${luckOfLog(water, fish, 5).toFixed(2)}`);
    skills.push(own.skill);
    lost.push(own.skill - plain.skill);
    should.push(1 - blind.skill);
    results.push(held(`sound ${seed}, ${fish}: skill`, own.skill, '>=', 0.35));
  }
}
const mean = (list: number[]): number => list.reduce((s, v) => s + v, 0) / list.length;
skills.sort((a, b) => a - b);
results.push(held('median way to the one who knows', skills[Math.floor(skills.length / 2)], '>=', 0.65));
results.push(held('least way to the one who knows', skills[0], '>=', 0.45));
console.log(`lost without the tide ${mean(lost).toFixed(3)}; one who knows all but the hour loses ${mean(should).toFixed(3)}`);
// The rest of the way is long: of what the hour is worth to one who knows, a fit can win its share of the way.
results.push(held('lost without the tide, against what it should', mean(lost) / mean(should), '>=', 0.5));
console.log(`peak memory ${peakMemory()} MB`);
finish(results);
