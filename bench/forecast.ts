import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { CellTable } from '@restless-shoal/core/chart';
import {
  chanceOverTrips,
  fitModel,
  logEffort,
  logScore,
  Predictor,
  Rates,
  speciesOdds,
  windBlown,
  type SpeciesLook,
} from '@restless-shoal/core/forecast';
import { defaultSpecies } from '@restless-shoal/core/species';
import { fitLooksOf, makeWater, profileNamed } from './made-water';
import { benchFolder, finish, held, peakMemory } from './support';

// How fast a water is forecast anew and a log fitted, and how both stand beside mgcv's bam (Debian's r-cran-mgcv) on the
// same looks with the same trips held out. Marks are taken at their names here, so that both see the same answers.

const results: boolean[] = [];
const water = makeWater(8, undefined);
const { cells } = water;
const zander = profileNamed('zander');
const looks = fitLooksOf(water);

/** A table of so many cells: those of the water over and over. */
function many(from: CellTable, count: number): CellTable {
  const out = { count } as Record<string, unknown>;
  for (const [name, column] of Object.entries(from)) {
    if (!(column instanceof Float32Array || column instanceof Int32Array)) continue;
    const each = column.length / from.count;
    const longer = new (column.constructor as new (n: number) => typeof column)(count * each);
    for (let i = 0; i < count; i++) for (let k = 0; k < each; k++) longer[i * each + k] = column[(i % from.count) * each + k];
    out[name] = longer;
  }
  return out as unknown as CellTable;
}
const middle = (times: number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];
const timed = <T>(work: () => T): [T, number] => {
  const started = performance.now();
  return [work(), performance.now() - started];
};

const [sorted, sorting] = timed(() => speciesOdds(looks, zander, defaultSpecies, cells));
const [model, fitting] = timed(() => fitModel(zander, cells, sorted));
console.log(
  `${looks.length} looks, ${model.spec.columns} columns: names sorted out in ${(sorting / 1000).toFixed(2)} s, fitted in ${(fitting / 1000).toFixed(2)} s`,
);
// Fifty thousand looks: the log again, its trips counted as other ones.
const more: SpeciesLook[] = [...sorted, ...sorted.filter((l) => l.trip < 25).map((l) => ({ ...l, trip: l.trip + 60 }))].slice(0, 50_000);
const [, fifty] = timed(() => fitModel(zander, cells, more));
results.push(held(`fit of ${more.length} looks`, fifty / 1000, '<=', 5, ' s'));
const large = many(cells, 100_000);
const [predictor, preparing] = timed(() => new Predictor(model, large));
console.log(`what lasts of 100,000 cells: ${(preparing / 1000).toFixed(2)} s, once a fit`);
const days = [...new Set(looks.map((l) => l.day))];
const times = Array.from({ length: 11 }, (_, k) => timed(() => predictor.on(days[(k * 7) % days.length]))[1]);
results.push(held('100,000 cells forecast anew, median', middle(times), '<=', 100, ' ms'));
console.log(`peak memory ${peakMemory()} MB`);

const named = looks
  .filter((l) => l.look.kind === 'scan')
  .map((l): SpeciesLook => ({ ...l, odds: l.look.targets.map((t) => (t.kind === 'fish' && t.species === 'zander' ? 1 : 0)) }));
const out = new Set(Array.from({ length: 12 }, (_, k) => 5 * k + 2));
const [train, test] = [named.filter((l) => !out.has(l.trip)), named.filter((l) => out.has(l.trip))];
const folder = benchFolder();
try {
  const [r] = [new Rates(model, cells)];
  const near = (d: number): number => (d >= 200 ? 0 : Math.exp(-d / 30));
  const known = (v: number, or: number): number => (Number.isNaN(v) ? or : v);
  const rows = [...train.map((l) => [l, 0] as const), ...test.map((l) => [l, 1] as const)].map(([l, isHeld]) => {
    const { cell: i, day } = l;
    const today = r.dayOf(day);
    const line = today.thermocline;
    return [
      isHeld,
      l.odds.length && Math.max(...Array.from(l.odds)) > 0.5 ? 1 : 0,
      logEffort(l.look),
      l.trip,
      cells.depth[i],
      today.surface,
      line == null ? 0 : Math.max(-6, Math.min(6, line - cells.depth[i])),
      line == null ? 0 : 1,
      Math.min(8, cells.depth[i] / today.secchi),
      known(cells.hardness[i], 0.4),
      known(cells.positionNear[i], 0),
      known(cells.positionWide[i], 0),
      known(cells.slope[i], 0),
      near(cells.woodDistance[i]),
      near(cells.weedDistance[i]),
      near(cells.edgeDistance[i]),
      windBlown(cells, i, today.strategy.windFrom, today.strategy.windSpeed),
      cells.column[i] * 25,
      cells.row[i] * 25,
    ].join(',');
  });
  const csv = join(folder.path, 'looks.csv');
  writeFileSync(
    csv,
    'held,seen,effort,trip,depth,surface,above,layered,light,hard,near,wide,slope,wood,weed,edge,wind,x,y\n' + rows.join('\n') + '\n',
  );
  const answers = join(folder.path, 'chances.csv');
  const script = fileURLToPath(new URL('../../bench/mgcv.R', import.meta.url));
  const run = spawnSync('Rscript', [script, csv, answers], { encoding: 'utf8' });
  if (run.status !== 0) throw new Error(`Rscript failed: ${run.stderr}`);
  const theirs = Number(run.stdout.trim().split('\n').at(-1));
  const said = readFileSync(answers, 'utf8').trim().split('\n').slice(1).map(Number);
  const [own, ours] = timed(() => fitModel(zander, cells, train));
  const rates = new Rates(own, cells);
  const seen = (l: SpeciesLook): number => (Array.from(l.odds).some((o) => o > 0.5) ? 1 : 0);
  const mean = (of: (l: SpeciesLook, k: number) => number): number => test.reduce((s, l, k) => s + of(l, k), 0) / test.length;
  const ourScore = mean((l) =>
    logScore(chanceOverTrips(rates.of(l.cell, l.day) + rates.detection(l.look, l.cell) + logEffort(l.look), own.tripSpread), seen(l)),
  );
  const theirScore = mean((l, k) => logScore(said[k], seen(l)));
  console.log(
    `${train.length} looks fitted, ${test.length} of 12 trips held out: ours ${ourScore.toFixed(5)} nats a look in ${(ours / 1000).toFixed(2)} s, mgcv ${theirScore.toFixed(5)} in ${theirs.toFixed(2)} s (one thread each)`,
  );
  results.push(held('better than mgcv on trips held out by', 1000 * (ourScore - theirScore), '>=', 0, ' millinats'));
  results.push(held('time of our fit over that of mgcv', ours / 1000 / theirs, '<=', 1));
} finally {
  folder.remove();
}
finish(results);
