import { expect } from 'chai';
import fc from 'fast-check';
import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { csvLine } from '@restless-shoal/core/formats';
import { RECORD_ORDER, records, type RecordName, type Row } from '@restless-shoal/core/logbook';
import { anyRows } from '../../core/test/support/made-up-rows';
import { command, serve, temporaryFolder, type CommandResult, type RunningServer } from '../../e2e/harness';

// Logbooks of possible rows of which nothing else is known: all of it goes in, comes out, and goes in again the same.

type Logbook = Map<RecordName, Row[]>;

const data = temporaryFolder();
const files = temporaryFolder();
let server: RunningServer;
before(async () => {
  server = await serve(data.path);
});
after(async () => {
  await server.stop();
  data.remove();
  files.remove();
});

const TRIPS = ['A', 'B'];
const DAY = Date.UTC(2026, 5, 14, 6);
const minutes = (n: number): string => new Date(DAY + n * 60_000).toISOString();

/** Trips of the same day on a small water, whatever else the rows say; or anywhere on earth and at any time. */
const anyLogbook = (near: boolean): fc.Arbitrary<Logbook> =>
  fc.tuple(...RECORD_ORDER.map((record) => anyRows(record, record === 'soundings' ? 40 : 8))).map((all) => {
    const book: Logbook = new Map();
    RECORD_ORDER.forEach((record, k) => {
      const rows = all[k].slice(0, record === 'trips' ? TRIPS.length : undefined).map((row, i): Row => {
        const own: Row = { ...row };
        if ('trip' in own)
          own.trip = record === 'trips' ? TRIPS[i] : TRIPS[i % Math.min(TRIPS.length, all[RECORD_ORDER.indexOf('trips')].length)];
        for (const key of ['stop', 'contact', 'profile', 'photo'])
          if (own[key] != null && key in records[record]) own[key] = `${record[0]}${i}`;
        if (!near) return own;
        if (own.latitude != null) own.latitude = 48.2 + (i % 7) * 0.0005;
        if (own.longitude != null) own.longitude = -34.6 + (i % 11) * 0.0005;
        if (record === 'soundings') own.depth_m = 1 + (i % 9);
        for (const key of ['time', 'start']) if (own[key] != null) own[key] = minutes(record === 'trips' ? i : 2 + i * 3);
        if (own.end != null) own.end = minutes(record === 'trips' ? 300 + i : 30 + i * 3);
        return own;
      });
      book.set(record, rows);
    });
    return book;
  });

function write(book: Logbook, to: string): string {
  mkdirSync(to);
  for (const [record, rows] of book) {
    const columns = Object.keys(records[record]);
    writeFileSync(join(to, `${record}.csv`), csvLine(columns) + rows.map((r) => csvLine(columns.map((c) => r[c]))).join(''));
  }
  return to;
}

let count = 0;
/** A command that has to end well, or at least with words and not with a fault of ours. */
async function run(...args: string[]): Promise<CommandResult> {
  const result = await command(...args, '--data', data.path);
  expect(result.text, args.join(' ')).to.not.match(/\b(TypeError|RangeError|ReferenceError|undefined|NaN)\b|\.[mt]s:\d+/);
  return result;
}
async function well(...args: string[]): Promise<string> {
  const { code, text } = await run(...args);
  expect(code, `${args.join(' ')}: ${text}`).to.equal(0);
  return text;
}

const sorted = (folder: string, name: string): string[] => readFileSync(join(folder, name), 'utf8').split('\n').sort();

/** Rows as they lie in a folder, quotes and line breaks read, apart from their order. */
async function passes(book: Logbook): Promise<void> {
  const at = (name: string): string => join(files.path, `${name} ${count}`);
  count++;
  const [water, copy] = [`Any ${count}`, `Copy ${count}`];
  const said = await well('import', '--water', water, '--create', write(book, at('in')));
  // Gear belongs to whoever fishes: what an earlier water brought is there already.
  for (const [record, rows] of book)
    if (record !== 'gear') expect(said, record).to.match(new RegExp(`${record}\\.csv: read ${rows.length}, added ${rows.length}\\b`));
  await well('export', '--water', water, '--to', at('out'));
  const back = await well('import', '--water', copy, '--create', at('out'));
  expect(back).to.not.match(/left out [1-9]/);
  await well('export', '--water', copy, '--to', at('again'));
  for (const name of readdirSync(at('out')).filter((n) => n.endsWith('.csv')))
    expect(sorted(at('again'), name), name).to.deep.equal(sorted(at('out'), name));
  const again = await well('import', '--water', water, at('in'));
  expect(again).to.not.match(/, added [1-9]/);
  // Where there is a chart it can be forecast, and every number of it is one.
  const { code, text } = await run(
    'forecast',
    '--water',
    water,
    '--species',
    'zander',
    '--at',
    '2026-06-15T06:00:00Z',
    '--out',
    at('f.csv'),
  );
  if (code !== 0) return void expect(text).to.match(/no chart|no cell|no outline/);
  const [head, ...lines] = readFileSync(at('f.csv'), 'utf8').trim().split('\n');
  const columns = head.split(',');
  for (const line of lines) {
    const value = (name: string): number => Number(line.split(',')[columns.indexOf(name)]);
    expect(value('low')).to.be.within(0, value('probability'));
    expect(value('high')).to.be.within(value('probability'), 1);
  }
}

describe('any logbook', () => {
  it('of a day on one water goes in, comes out, and goes in again the same; it can be forecast', () =>
    fc.assert(fc.asyncProperty(anyLogbook(true), passes), { numRuns: 2, endOnFailure: true })).timeout(1e6);
  it('of anywhere and any time goes in, comes out, and goes in again the same', () =>
    fc.assert(fc.asyncProperty(anyLogbook(false), passes), { numRuns: 2, endOnFailure: true })).timeout(1e6);
});
