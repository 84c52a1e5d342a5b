import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { writeOtherLog, type LogKind } from './other-log';
import { benchFolder, finish, held } from './support';
import { waterScore } from './water-score';

// What the forecast is worth to somebody else: logs of waters, fish and habits that are none of the demo's, with parts
// of what can be logged left out, through the command line alone. `./shoal bench others [SEED]`

const seed = Number(process.argv[2] ?? 1);
/** The least way to the one who knows for the commonest species, by what is logged: most where scans are, less where fishing has to stand for them. */
const BARS: [LogKind, number][] = [
  ['all', 0.6],
  ['linked catches', 0.6],
  ['no ranges', 0.6],
  ['no outline', 0.6],
  ['no hardness', 0.5],
  ['no conditions', 0.5],
  ['sweeps', 0.5],
  ['fishing alone', 0.3],
];

function shoal(...args: string[]): string {
  const run = spawnSync(process.execPath, [join(import.meta.dirname, 'main.mjs'), ...args], { encoding: 'utf8' });
  if (run.status !== 0) throw new Error(`${args[0]} failed: ${run.stderr || run.stdout}`);
  return run.stdout;
}

const folder = benchFolder();
const results: boolean[] = [];
try {
  for (const [k, [kind, bar]] of BARS.entries()) {
    const [log, data] = [join(folder.path, `log${k}`), join(folder.path, `data${k}`)];
    const other = writeOtherLog(log, kind, seed);
    const said = shoal('import', '--water', 'Other mere', '--create', '--data', data, log);
    console.log(`${kind}: ${/looks: .*/.exec(said)?.[0]}`);
    for (const [s, species] of other.species.entries()) {
      const [chances, known]: [number[][], number[][]] = [[], []];
      other.days.forEach(({ at, conditions }, day) => {
        const [given, out] = [join(folder.path, 'conditions.csv'), join(folder.path, 'out.csv')];
        writeFileSync(given, conditions);
        shoal(
          'forecast',
          '--water',
          'Other mere',
          '--species',
          species.name,
          '--at',
          at,
          '--conditions',
          given,
          '--out',
          out,
          '--data',
          data,
        );
        const [head, ...rows] = readFileSync(out, 'utf8').trim().split('\n');
        const [latitude, longitude, probability] = ['latitude', 'longitude', 'probability'].map((name) => head.split(',').indexOf(name));
        chances.push(rows.map((row) => Number(row.split(',')[probability])));
        known.push(rows.map((row) => species.chance(Number(row.split(',')[latitude]), Number(row.split(',')[longitude]), day)));
      });
      const score = waterScore(chances, known);
      console.log(
        `  ${species.name.padEnd(7)} ${(100 * score.skill).toFixed(0).padStart(4)} % of the way, expected over true ${score.expectedOverTrue.toFixed(2)} (luck of the log ${species.luck.toFixed(2)}), slope ${score.slope.toFixed(2)}, decile error ${score.decileError.toFixed(2)} of the mean`,
      );
      if (s < 2) results.push(held(`${kind}, ${species.name}: way to the one who knows`, score.skill, '>=', bar));
      else results.push(held(`${kind}, ${species.name}, seldom seen: way to the one who knows`, score.skill, '>=', 0));
    }
  }
} finally {
  folder.remove();
}
finish(results);
