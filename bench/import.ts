import { createReadStream, createWriteStream, readFileSync } from 'node:fs';
import { once } from 'node:events';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { from as copyFrom } from 'pg-copy-streams';
import { openContext } from '../server/src/cli/context';
import { importInto } from '../server/src/import/import';
import { lookInto } from '../server/src/import/look-into';
import { newId } from '@restless-shoal/core/logbook';
import { findSources } from '../server/src/import/sources';
import { writeZip } from '../server/src/zip';
import { benchFolder, finish, held, peakMemory, seconds } from './support';

// A million soundings through the import, beside a bare COPY of the same rows into the same indexed table; from a ZIP; and
// as another program's table (feet, Fahrenheit, day and time in two columns by the clock of a zone), beside our own. Then
// from a ZIP through the page, while others ask.

const ROWS = Number(process.argv[2] ?? 1_000_000);
process.env.SHOAL_MAIN = fileURLToPath(new URL('./main.mjs', import.meta.url));
const { serve } = await import('../e2e/harness');
const folder = benchFolder();
const context = await openContext(join(folder.path, 'data'));
const results: boolean[] = [];
try {
  const { pool, account } = context;
  // Made-up soundings along passes, as a survey of some days has them.
  const csv = createWriteStream(join(folder.path, 'soundings.csv'));
  const copy = createWriteStream(join(folder.path, 'rows.copy'));
  const foreign = createWriteStream(join(folder.path, 'plotter.csv'));
  foreign.write('Lat;Lon;Depth (ft);Temp (F);Date;Time\n');
  csv.write('time,latitude,longitude,depth_m,temperature_c,hardness,heading_deg,speed_ms\n');
  const start = Date.UTC(2026, 3, 1);
  const water = '00000000-0000-7000-8000-000000000001';
  for (let from = 0; from < ROWS; from += 10_000) {
    let [lines, rows, others] = ['', '', ''];
    for (let i = from; i < Math.min(ROWS, from + 10_000); i++) {
      const time = new Date(start + i * 400).toISOString();
      const pass = Math.floor(i / 2500);
      const y = pass % 2 ? 2500 - (i % 2500) : i % 2500;
      const [latitude, longitude] = [(48.1 + y * 0.9e-5).toFixed(7), (-34.7 + pass * 3.3e-4).toFixed(7)];
      const values = [
        latitude,
        longitude,
        (8 + 4 * Math.sin(i / 900)).toFixed(2),
        '14.2',
        (0.5 + 0.4 * Math.sin(i / 333)).toFixed(2),
        '90',
        '2.5',
      ];
      lines += `${time},${values.join(',')}\n`;
      rows += `${water}\t1\t${time}\t${values.join('\t')}\n`;
      const feet = ((8 + 4 * Math.sin(i / 900)) / 0.3048).toFixed(2);
      others += `${latitude};${longitude};${feet};57.6;${time.slice(8, 10)}.${time.slice(5, 7)}.${time.slice(0, 4)};${time.slice(11, 23)}\n`;
    }
    for (const [stream, text] of [
      [csv, lines],
      [copy, rows],
      [foreign, others],
    ] as const)
      if (!stream.write(text)) await once(stream, 'drain');
  }
  await Promise.all([csv, copy, foreign].map((stream) => new Promise((done) => stream.end(done))));

  await pool.query('CREATE TABLE bare (LIKE soundings)');
  await pool.query('CREATE INDEX bare_key ON bare (water_id, time, latitude, longitude, depth_m)');
  const bare = async (): Promise<number> => {
    await pool.query('TRUNCATE bare');
    await pool.query('CHECKPOINT');
    const started = performance.now();
    const client = await pool.connect();
    await pipeline(
      createReadStream(join(folder.path, 'rows.copy'), { highWaterMark: 1 << 20 }),
      client.query(
        copyFrom(
          'COPY bare (water_id, survey_id, time, latitude, longitude, depth_m, temperature_c, hardness, heading_deg, speed_ms) FROM STDIN',
        ),
      ),
    );
    client.release();
    return (performance.now() - started) / 1000;
  };
  await writeZip(createWriteStream(join(folder.path, 'logbook.zip')), (add) =>
    add('soundings.csv', createReadStream(join(folder.path, 'soundings.csv'))),
  );
  const ours = async (name: string, file = 'soundings.csv'): Promise<number> => {
    await pool.query('CHECKPOINT');
    const started = performance.now();
    const done = await importInto(pool, account, await findSources([join(folder.path, file)]), {
      water: name,
      create: true,
      update: false,
    });
    const took = (performance.now() - started) / 1000;
    const { added } = done.files[0].merge;
    if (added !== ROWS) throw new Error(`${added} of ${ROWS} rows were added`);
    return took;
  };
  const theirs = async (name: string): Promise<number> => {
    const sources = await findSources([join(folder.path, 'plotter.csv')]);
    const looked = await lookInto(pool, account, sources, { water: name });
    const parts = looked.foreign.map(({ mapping }) => ({ ...mapping, zone: 'Europe/Berlin' }));
    await pool.query('CHECKPOINT');
    const started = performance.now();
    const done = await importInto(pool, account, sources, { water: name, create: true, update: false, mapping: { parts } });
    const took = (performance.now() - started) / 1000;
    const { added } = done.files[0].merge;
    if (added !== ROWS) throw new Error(`${added} of ${ROWS} rows of the other program were added`);
    return took;
  };
  // In turn, so that a slow moment of the machine meets all.
  const [copyTimes, importTimes, zipTimes, foreignTimes]: number[][] = [[], [], [], []];
  for (let round = 0; round < 3; round++) {
    copyTimes.push(await bare());
    importTimes.push(await ours(`Bench ${round}`));
    zipTimes.push(await ours(`Packed ${round}`, 'logbook.zip'));
    foreignTimes.push(await theirs(`Other ${round}`));
    console.log(
      `round ${round + 1}: bare COPY ${seconds(copyTimes[round])}, import ${seconds(importTimes[round])}, from a ZIP ${seconds(zipTimes[round])}, other program’s ${seconds(foreignTimes[round])}`,
    );
  }
  const middle = (times: number[]): number => times.sort((a, b) => a - b)[1];
  console.log(
    `${ROWS} rows: bare COPY ${seconds(middle(copyTimes))}, import ${seconds(middle(importTimes))}, peak memory ${peakMemory()} MB`,
  );
  results.push(held('speed of the import over a bare COPY', middle(copyTimes) / middle(importTimes), '>=', 0.5));
  results.push(held('time from a ZIP over that from the bare file', middle(zipTimes) / middle(importTimes), '<=', 1.2));
  results.push(held('speed of another program’s table over our own', middle(importTimes) / middle(foreignTimes), '>=', 0.4));
  const again = performance.now();
  const repeated = await importInto(pool, account, await findSources([join(folder.path, 'soundings.csv')]), {
    water: 'Bench 0',
    create: false,
    update: false,
  });
  console.log(
    `the same file again: ${seconds((performance.now() - again) / 1000)}, added ${repeated.files[0].merge.added}, known already ${repeated.files[0].merge.same}`,
  );
  results.push(held('rows added by the same file again', repeated.files[0].merge.added, '<=', 0));

  // An installation of its own: those that were made above would be charted beside it.
  const server = await serve(join(folder.path, 'page'));
  try {
    const upload = newId();
    const send = async (method: string, path: string, body: BodyInit, type = 'application/json'): Promise<{ job: string }> =>
      (await (await fetch(`${server.url}/api${path}`, { method, headers: { 'Content-Type': type }, body })).json()) as { job: string };
    const packed = new Blob([readFileSync(join(folder.path, 'logbook.zip'))]);
    await send('PUT', `/uploads/${upload}/logbook.zip`, packed, 'application/octet-stream');
    const { job } = await send('POST', '/imports', JSON.stringify({ upload, water: 'By page', create: true }));
    let [slowest, asked, state] = [0, 0, ''];
    // What is asked is a list from the database, the import itself included; charting it is another bench's work.
    for (let stateWords = ''; !['done', 'failed'].includes(state) && !stateWords.startsWith('deriving');) {
      const began = performance.now();
      await (await fetch(`${server.url}/api/waters`)).arrayBuffer();
      const took = performance.now() - began;
      if (took > 200) console.log(`${took.toFixed(0)} ms while it was at: ${stateWords}`);
      slowest = Math.max(slowest, took);
      asked++;
      if (asked % 10 === 0) {
        const told = (await (await fetch(`${server.url}/api/jobs/${job}`)).json()) as { state: string; words: string | null };
        [state, stateWords] = [told.state, told.words ?? ''];
      }
      await sleep(20);
    }
    console.log(`while it was imported through the page others asked ${asked} times`);
    results.push(held('slowest answer meanwhile', slowest, '<=', 200, ' ms'));
  } finally {
    await server.stop();
  }
} finally {
  await context.close();
  folder.remove();
}
finish(results);
