import { expect } from 'chai';
import fc from 'fast-check';
import { metricPlane, WaterCells } from '../../src/geo';
import { deriveLooks, tripInPlane, type Contact, type Reading, type Response, type Row, type Stop, type TrackFix } from '../../src/logbook';
import {
  COVARIATES,
  labelKey,
  MOOD_FACTORS,
  WaterPatterns,
  type LogContact,
  type LogResponse,
  type LogStop,
  type Question,
} from '../../src/patterns';
import { defaultSpecies } from '../../src/species';
import { madeUpChart } from '../support/made-up-logbook';
import { anyRows } from '../support/made-up-rows';

// Any rows on any days, on a water with a chart: every question of the log has an answer that could be one.

const chart = madeUpChart();
const plane = metricPlane(chart.epsg);
const [X0, Y0] = [Math.min(...chart.cells.column) * 25, Math.min(...chart.cells.row) * 25];
const cells = new WaterCells([
  [
    [X0, Y0],
    [X0 + 2000, Y0],
    [X0 + 2000, Y0 + 1200],
    [X0, Y0 + 1200],
  ],
]);

interface TripRows {
  track: TrackFix[];
  stops: Stop[];
  contacts: Contact[];
  responses: Response[];
  conditions: Reading[];
}

/** Rows of one trip, brought on to the water and into the trip's hours; what else they say is their own. */
function broughtTo(rows: Row[], trip: string, start: number, spread: number): Row[] {
  return rows.map((row, i): Row => {
    const place = plane.toLatLon([X0 + 60 + ((i * 37 + spread) % 1800), Y0 + 60 + ((i * 11 + spread) % 1000)]);
    const at = (minutes: number): string => new Date(start + minutes * 60_000).toISOString();
    return {
      ...row,
      trip,
      ...('latitude' in row && { latitude: place.latitude, longitude: place.longitude }),
      ...('time' in row && { time: at(5 + i) }),
      ...('start' in row && { start: at(5 + i), end: at(25 + i) }),
      ...('species' in row && { species: ['zander', 'perch', null][i % 3] }),
      ...('contact' in row && { contact: `c${i}`, same_as: null }),
      ...('stop' in row && { stop: `s${i % 3}` }),
    };
  });
}

const anyTrips: fc.Arbitrary<TripRows[]> = fc.array(
  fc
    .tuple(
      anyRows('track', 20),
      anyRows('stops', 3),
      anyRows('contacts', 12),
      anyRows('responses', 6),
      anyRows('conditions', 3),
      fc.nat(900),
    )
    .map(([track, stops, contacts, responses, conditions, when]) => {
      const start = Date.UTC(2025, 3, 1, 5) + when * 86_400_000;
      const own = (rows: Row[]): Row[] => broughtTo(rows, `t${when}`, start, when);
      return {
        track: own(track),
        stops: own(stops),
        contacts: own(contacts),
        responses: own(responses),
        conditions: own(conditions),
      } as unknown as TripRows;
    }),
  { maxLength: 9 },
);

function patternsOf(trips: TripRows[]): WaterPatterns {
  const readings = trips.flatMap((t) => t.conditions.map((row) => ({ at: Date.parse(row.time), row }))).sort((a, b) => a.at - b.at);
  const logbook = { trips: [] as never[], contacts: [] as LogContact[], stops: [] as LogStop[], responses: [] as LogResponse[] };
  trips.forEach((rows, k) => {
    const id = `trip ${k}`;
    const derived = deriveLooks(tripInPlane(plane, rows), cells, { depthAt: (x, y) => chart.depth.at(x, y) });
    const start = rows.track[0]?.time ?? '2026-06-01T06:00:00.000Z';
    (logbook.trips as unknown[]).push({ id, start, looks: derived.looks, outside: derived.outside.length });
    for (const name of ['contacts', 'stops', 'responses'] as const)
      (logbook[name] as unknown[]).push(...rows[name].map((r, i) => ({ ...r, id: `${name} ${k} ${i}`, trip_id: id })));
  });
  const frame = { latitude: 55, longitude: -39, altitude: 100, deepest: chart.deepest, lengthKm: 2 };
  return new WaterPatterns(logbook, chart, { frame, readings, profiles: [], timeZone: 'Etc/GMT+3' }, [...defaultSpecies]);
}

const QUESTIONS: Question[] = [
  { species: 'zander' },
  { species: null },
  { species: 'perch', confirmedOnly: true, hours: [22, 4] },
  { species: 'zander', size: 'large', surface: [4, 30], from: '2025-06-01' },
];

/** All words that an answer holds, however deep. */
const wordsOf = (value: unknown): string[] =>
  typeof value === 'string' ? [value] : typeof value === 'object' && value !== null ? Object.values(value).flatMap(wordsOf) : [];

describe('the patterns of any log', () => {
  it('answer every question, in numbers that could be and in words that are', () =>
    fc.assert(
      fc.property(anyTrips, (trips) => {
        const patterns = patternsOf(trips);
        for (const question of QUESTIONS) {
          const { n, used, effort } = patterns.select(question);
          expect(n.contacts).to.be.at.least(0);
          expect([...used, ...effort].every((v) => Number.isFinite(v) && v >= 0)).to.equal(true);
          for (const { key } of COVARIATES) {
            const { classes } = patterns.where(question, key, { smooth: true, resamples: 20 });
            for (const c of classes) {
              expect(labelKey(c.label), key).to.match(/\S/);
              if (!Number.isNaN(c.low)) expect(c.low, key).to.be.at.most(c.high);
            }
          }
          const search = patterns.search(question);
          let step = search.next();
          while (!step.done) step = search.next();
          const answers = [
            step.value,
            patterns.windows(question),
            patterns.heat(question, [COVARIATES[0].key, COVARIATES[1].key]),
            ...MOOD_FACTORS.map((f) => patterns.mood(question, f)),
            patterns.sizes(question),
            patterns.whereTheyHang(question),
            patterns.marks(question),
            patterns.names(),
            patterns.debates(question),
            patterns.years(question),
            patterns.pick(question, { at: 'all' }),
            patterns.goodStops(question),
          ];
          for (const words of answers.flatMap(wordsOf)) expect(words).to.not.match(/\b(NaN|undefined|Infinity|null)\b/);
        }
      }),
      { numRuns: 6 },
    ));
});
