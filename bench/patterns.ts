import { rateRatio } from '@restless-shoal/core/numbers';
import { searchCombinations, selection, WaterPatterns, finish as finishSearch } from '@restless-shoal/core/patterns';
import type { LogContact, Logbook, Question } from '@restless-shoal/core/patterns';
import type { Look, Reading } from '@restless-shoal/core/logbook';
import { seeded } from '@restless-shoal/core/numbers';
import { defaultSpecies } from '@restless-shoal/core/species';
import { conditionsOfMade, makeUpLooks, type Making } from '../core/test/patterns/made-up-looks';
import { madeUpChart } from '../core/test/support/made-up-logbook';
import { finish, held } from './support';
import { seenTarget } from '../core/test/support/seen-target';

// How often the intervals of the patterns hold the truth, how often a search reports what is not there, and how fast
// ten years of a log answer. Logs are made up with trips, lasting places and places of the day that have their own luck.

// With 0 logs only the speed is measured.
const LOGS = Number(process.argv[2] ?? 200);
const [NULLS, PLANTED] = LOGS ? [100, 20] : [0, 0];
const results: boolean[] = [];

const worlds: [name: string, making: Partial<Making>][] = [
  ['40 trips', {}],
  ['15 trips', { trips: 15 }],
  ['places without luck of their own', { placeSpread: 0 }],
  ['places with much', { placeSpread: 0.8 }],
  ['few fish', { rate: 1 }],
];
console.log(`80 % intervals of selection and of rate ratios, ${LOGS} logs each`);
for (const [name, making] of LOGS ? worlds : []) {
  let [hit, all, ratioHit, ratios] = [0, 0, 0, 0];
  for (let seed = 1; seed <= LOGS; seed++) {
    const made = makeUpLooks({ seed: seed + 1000, preference: [-1, 0, 0.7, 0.3, -0.5, -1], rate: 6, ...making });
    const looks = { ...made, classes: made.depth };
    const truth = selection({ ...looks, used: made.wanted }, { classes: 6, resamples: 0 });
    for (const row of selection(looks, { classes: 6, resamples: 200, seed })) {
      if (Number.isNaN(row.low) || row.expected < 5) continue;
      all++;
      if (row.low <= truth[row.class].ratio && truth[row.class].ratio <= row.high) hit++;
    }
    const inside = made.depth.map((d) => (d === 2 ? 1 : 0));
    const found = rateRatio(made.used, made.effort, inside, made.clusters);
    if (Number.isNaN(found.low)) continue;
    const real = rateRatio(made.wanted, made.effort, inside, made.clusters).ratio;
    ratios++;
    if (found.low <= real && real <= found.high) ratioHit++;
  }
  results.push(held(`${name}: share of ${all} selection intervals that hold the truth`, hit / all, '>=', 0.74));
  results.push(held(`${name}: the same, not too wide`, hit / all, '<=', 0.86));
  console.log(`       ${name}: of ${ratios} rate ratios ${(ratioHit / ratios).toFixed(3)}`);
}

for (const [name, making] of NULLS ? worlds.slice(0, 4) : []) {
  let [silent, tried] = [0, 0];
  for (let seed = 1; seed <= NULLS; seed++) {
    const made = makeUpLooks({ seed: seed + 5000, traits: 10, rate: 4, ...making });
    const search = finishSearch(searchCombinations(made, conditionsOfMade(made)));
    tried += search.tried;
    if (!search.found.length) silent++;
  }
  results.push(
    held(
      `${name}: logs of ${NULLS} with nothing in them in which the search reports nothing (${Math.round(tried / NULLS)} tried)`,
      silent,
      '>=',
      90,
    ),
  );
}
let hits = 0;
for (let seed = 1; seed <= PLANTED; seed++) {
  const made = makeUpLooks({ seed: seed + 9000, traits: 10, trips: 150, rate: 3, together: { traits: [2, 5], log: 1.4 } });
  const { found } = finishSearch(searchCombinations(made, conditionsOfMade(made)));
  if (found.some((f) => ['2', '5'].every((k) => f.conditions.some((c) => c.key === k)))) hits++;
}
console.log(`       a pair that makes four times as many, 150 trips: found in ${hits} of ${PLANTED} logs`);

/** Ten years: 2,000 trips of 150 looks. */
function tenYears(): { logbook: Logbook; readings: { at: number; row: Reading }[] } {
  const random = seeded(7);
  const { cells } = madeUpChart();
  const logbook: Logbook = { trips: [], contacts: [], stops: [], responses: [] };
  const readings: { at: number; row: Reading }[] = [];
  for (let t = 0; t < 2000; t++) {
    const start = Date.UTC(2016 + Math.floor(t / 200), 3, 1, 6) + (t % 200) * 86_400_000;
    readings.push({
      at: start,
      row: {
        trip: `${t}`,
        time: '',
        surface_temperature_c: 8 + 12 * random(),
        secchi_m: 2,
        wind_from_deg: 250,
        wind_speed_ms: 4,
      } as Reading,
    });
    const looks: Look[] = [];
    let cell = Math.floor(random() * cells.count);
    for (let k = 0; k < 150; k++) {
      if (k % 30 === 0) cell = Math.floor(random() * cells.count);
      cell = (cell + 1) % cells.count;
      const at = start + k * 90_000;
      const targets = random() < 0.15 ? [`${t}-${k}`] : [];
      looks.push({
        column: cells.column[cell],
        row: cells.row[cell],
        visit: 0,
        kind: 'scan',
        from: at,
        to: at + 20_000,
        effort: 400,
        area: 400,
        view: 'side-scan',
        reach: 25,
        targets: targets.map((target) =>
          seenTarget({ target, confidence: 0.5 + 0.5 * random(), top: 3, bottom: 4, at, view: 'side-scan', off: 25 * random() }),
        ),
      });
      for (const contact of targets)
        logbook.contacts.push({
          id: contact,
          contact,
          trip: `${t}`,
          trip_id: `${t}`,
          time: '',
          kind: 'fish',
          latitude: 0,
          longitude: 0,
        } as LogContact);
    }
    logbook.trips.push({ id: `${t}`, start, looks, outside: 0 });
  }
  return { logbook, readings };
}
const { logbook, readings } = tenYears();
const chart = madeUpChart();
const sorted = performance.now();
Float64Array.from({ length: 3_000_000 }, (_, i) => (i * 7919) % 1_000_003).sort();
const reference = performance.now() - sorted;
const began = performance.now();
const patterns = new WaterPatterns(
  logbook,
  chart,
  {
    frame: { latitude: 55, longitude: -39, altitude: 0, deepest: chart.deepest, lengthKm: 2 },
    readings,
    profiles: [],
    timeZone: 'Etc/GMT+3',
  },
  [...defaultSpecies],
);
console.log(
  `       ten years laid out: ${patterns.table.count} looks, ${logbook.contacts.length} contacts in ${((performance.now() - began) / 1000).toFixed(1)} s (three million numbers sorted in ${(reference / 1000).toFixed(2)} s)`,
);
/** What the first page asks for when a filter is moved, apart from the search. */
function ask(question: Question): number[] {
  const parts = [performance.now()];
  const done = (): number => parts.push(performance.now());
  patterns.select(question);
  done();
  patterns.where(question, 'depth');
  done();
  patterns.windows(question);
  done();
  patterns.heat(question, ['hardness', 'cover']);
  done();
  return parts.slice(1).map((t, k) => t - parts[k]);
}
ask({ species: 'zander' });
const total = (parts: number[]): number => parts.reduce((a, b) => a + b);
const runs = [0.6, 0.7, 0.8, 0.55, 0.65]
  .map((odds) => ask({ species: 'zander', odds, surface: [5, 25 - odds] }))
  .sort((a, b) => total(a) - total(b));
console.log(`       narrow, selection, windows, heat map: ${runs[2].map((v) => v.toFixed(0)).join(', ')} ms`);
results.push(held('a filter answers on all charts of the page, median of five', total(runs[2]), '<=', 300, ' ms'));
const selected = patterns.select({ species: 'zander' });
const classes = Array.from(selected.scans, (i) => patterns.values({ species: 'zander' }).classesOf('depth')[i]);
const boot = performance.now();
selection({ ...selected, classes }, { classes: 17, resamples: 1000 });
results.push(held('a bootstrap of 1,000', (performance.now() - boot) / 1000, '<=', 3, ' s'));
const search = performance.now();
const { tried } = finishSearch(patterns.search({ species: 'zander' }));
console.log(`       ${tried} combinations searched in ${((performance.now() - search) / 1000).toFixed(1)} s`);
finish(results);
