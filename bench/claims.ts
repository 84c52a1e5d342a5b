import { splitByTrips, seeded } from '@restless-shoal/core/numbers';
import { finish as finishSearch, type Question } from '@restless-shoal/core/patterns';
import { patternsOf, type LogMaking } from '../core/test/support/made-up-logbook';
import { finish, held } from './support';

// What the sentences of Patterns claim, on made-up logs whose truth is known: how often a headline, a combination or a
// lure stands though the fish ignore everything, and how often what was planted is found.

const LOGS = Number(process.argv[2] ?? 150);
const question: Question = { species: 'zander' };
const results: boolean[] = [];

/** The boat keeps to shallow water, fish to nothing; some 17 contacts a trip. */
const nothing: Omit<LogMaking, 'seed'> = { trips: 10, packs: () => 3.5, boat: (depth) => (depth < 4 ? 1 : 0.25) };
const KEYS = ['depth', 'hardness', 'slope', 'position-wide', 'shore', 'surface'];
const [said, outside, rows] = [KEYS.map(() => 0), KEYS.map(() => 0), KEYS.map(() => 0)];
let listed = 0;
for (let seed = 1; seed <= LOGS; seed++) {
  const patterns = patternsOf({ ...nothing, seed: 1000 + seed });
  KEYS.forEach((key, k) => {
    const answer = patterns.where(question, key);
    if (answer.standOut?.run) said[k]++;
    for (const row of answer.classes) {
      if (Number.isNaN(row.low)) continue;
      rows[k]++;
      if (row.low > 1 || row.high < 1) outside[k]++;
    }
  });
  if (finishSearch(patterns.search(question)).found.length) listed++;
}
KEYS.forEach((key, k) => {
  results.push(held(`nothing planted, ${LOGS} logs of 10 trips: headlines by ${key}`, said[k] / LOGS, '<=', 0.1));
  results.push(held(`nothing planted: 80 % intervals by ${key} that leave 1 out, of ${rows[k]}`, outside[k] / rows[k], '<=', 0.25));
});
results.push(held('nothing planted: logs with a combination listed', listed / LOGS, '<=', 0.1));

// Four trips with a handful of schools each: what is shown at all has to hold.
let [shownRows, shownOutside] = [0, 0];
for (let seed = 1; seed <= LOGS; seed++)
  for (const row of patternsOf({ ...nothing, trips: 4, packs: () => 1.2, seed: 9000 + seed }).where(question, 'depth').classes) {
    if (Number.isNaN(row.low)) continue;
    shownRows++;
    if (row.low > 1 || row.high < 1) shownOutside++;
  }
results.push(held(`4 trips, few schools: 80 % intervals by depth that leave 1 out, of ${shownRows}`, shownOutside / Math.max(1, shownRows), '<=', 0.25)); // prettier-ignore

/** Share of logs in which something is found. */
function power(
  name: string,
  logs: number,
  making: Omit<LogMaking, 'seed'>,
  found: (p: ReturnType<typeof patternsOf>) => boolean,
  bar: number,
): void {
  let hits = 0;
  for (let seed = 1; seed <= logs; seed++) if (found(patternsOf({ ...making, seed: 5000 + seed }))) hits++;
  results.push(held(`${name}, ${logs} logs`, hits / logs, '>=', bar));
}
const few = Math.max(10, Math.round(LOGS / 3));
const atDepth = (p: ReturnType<typeof patternsOf>): boolean => {
  const run = p.where(question, 'depth', { resamples: 10 }).standOut?.run;
  return !!run && run.classes[0] >= 2 && run.classes[1] <= 5;
};
const twice = (depth: number): number => (depth >= 3 && depth < 5 ? 6 : 3);
power('twice as many at 3 to 5 m, 10 trips', few, { trips: 10, packs: twice }, atDepth, 0.7);
power('twice as many at 3 to 5 m, 30 trips', few, { trips: 30, packs: twice }, atDepth, 0.9);
const EAST = 501_000;
const lists =
  (key: string) =>
  (p: ReturnType<typeof patternsOf>): boolean =>
    finishSearch(p.search(question)).found.some((f) => f.conditions.some((c) => c.key === key));
power('twice as many over hard bottom, 60 trips', Math.max(6, Math.round(LOGS / 10)), { trips: 60, packs: (_d, _s, x) => (x > EAST ? 4.4 : 2.2) }, lists('condition.hard'), 0.8); // prettier-ignore
power('three times as many near timber, 60 trips', Math.max(6, Math.round(LOGS / 10)), { trips: 60, timber: true, packs: (_d, _s, _x, timber) => (timber <= 20 ? 6.6 : 2.2) }, lists('condition.timber'), 0.9); // prettier-ignore

// Which lure: every trip has one, and a mood of its own.
for (const [name, values] of [
  ['two lures', 2],
  ['five lures', 5],
] as const) {
  const random = seeded(11);
  let unlike = 0;
  const logs = 5 * LOGS;
  for (let log = 0; log < logs; log++) {
    const trips = Array.from({ length: 20 }, (_, trip) => ({ trip, lure: Math.floor(values * random()), mood: random() }));
    const shown = trips.flatMap(({ trip, lure, mood }) => Array.from({ length: 6 }, () => ({ trip, lure, yes: random() < mood })));
    const lines = [...new Set(shown.map((r) => r.lure))].filter((lure) => shown.filter((r) => r.lure === lure).length >= 8);
    const p = lines.map((lure) => splitByTrips(shown.map((r) => ({ ...r, inside: r.lure === lure }))));
    if (p.some((v) => v * lines.length < 0.1)) unlike++;
  }
  results.push(held(`mood by trip, ${name}, ${logs} logs: one of them unlike the others`, unlike / logs, '<=', 0.1));
}
finish(results);
