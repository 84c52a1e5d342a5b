import { expect } from 'chai';
import fc from 'fast-check';
import { catchesOf, guessOrder, guessPart, mappingText, readDegrees, readMapping, readMoment, soundingReader } from '../../src/tables';
import { firstRowNames } from '../../src/tables/guess';
import { localToUtc } from '../../src/units';

const at = (moment: ReturnType<typeof readMoment>): string => (typeof moment === 'string' ? moment : new Date(moment.at).toISOString());
const guess = (columns: string[] | null, sample: string[][], more: Partial<Parameters<typeof guessPart>[0]> = {}) =>
  guessPart({ part: 'table', columns, sample, near: null, crs: null, day: null, ...more });
const targets = (g: ReturnType<typeof guess>): string => g.mapping.columns.map((c) => c.to + (c.unit ? ` ${c.unit}` : '')).join(', ');

describe('moments', () => {
  it('are read in the orders people write them, by the clock of their zone', () => {
    expect(at(readMoment('31.05.2024', '06:30', 'dmy', 'Europe/Berlin'))).to.equal('2024-05-31T04:30:00.000Z');
    expect(at(readMoment('5/31/2024 6:30 PM', '', 'mdy', 'America/Chicago'))).to.equal('2024-05-31T23:30:00.000Z');
    expect(at(readMoment('2024-05-31T06:30:15+02:00', '', 'ymd', 'UTC'))).to.equal('2024-05-31T04:30:15.000Z');
    expect(at(readMoment('20240531', '063015', 'ymd', 'UTC'))).to.equal('2024-05-31T06:30:15.000Z');
    expect(at(readMoment('31 May 2024', '', 'dmy', 'UTC'))).to.equal('2024-05-31T00:00:00.000Z');
    // 31 May 2024 is day 45443 of a spreadsheet; a quarter of a day later it is six.
    expect(at(readMoment('45443.25', '', 'excel', 'UTC'))).to.equal('2024-05-31T06:00:00.000Z');
    expect(at(readMoment('1717137000', '', 'unix', 'Asia/Tokyo'))).to.equal('2024-05-31T06:30:00.000Z');
    for (const [text, order] of [
      ['31.02.2024', 'dmy'],
      ['2024-13-01', 'ymd'],
      ['soon', 'dmy'],
      ['', 'ymd'],
    ] as const)
      // prettier-ignore
      expect(readMoment(text, '', order, 'UTC'), text).to.be.a('string');
  });
  it('keep their day and hour through the change of clocks', () => {
    // The clocks went forward on 31 March 2024 at 2, back on 27 October at 3.
    expect(at(readMoment('31.03.2024', '12:00', 'dmy', 'Europe/Berlin'))).to.equal('2024-03-31T10:00:00.000Z');
    expect(at(readMoment('27.10.2024', '12:00', 'dmy', 'Europe/Berlin'))).to.equal('2024-10-27T11:00:00.000Z');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 366 * 48 }), (halfHours) => {
        const local = Date.UTC(2024, 0, 1) + halfHours * 1_800_000;
        const utc = localToUtc(local, 'Europe/Berlin');
        expect([3_600_000, 7_200_000]).to.include(local - utc);
      }),
    );
  });
  it('tell their order where it can be told, and say where it cannot', () => {
    expect(guessOrder(['31.05.2024', '01.06.2024'])).to.equal('dmy');
    expect(guessOrder(['05/31/2024', '06/01/2024'])).to.equal('mdy');
    expect(guessOrder(['05/06/2024', '06/07/2024'])).to.equal('ambiguous');
    expect(guessOrder(['2024-05-06'])).to.equal('ymd');
    expect(guessOrder(['45443', '45444.5'])).to.equal('excel');
    expect(guessOrder(['1717137000'])).to.equal('unix');
    expect(guessOrder(['perch'])).to.equal(null);
  });
});

describe('degrees', () => {
  it('are read as decimal numbers, minutes and seconds, with letters and signs', () => {
    expect(readDegrees('52,4012', 'latitude')).to.be.closeTo(52.4012, 1e-9);
    expect(readDegrees("N 52°24.072'", 'latitude')).to.be.closeTo(52.4012, 1e-9);
    expect(readDegrees('13 6 2.52 W', 'longitude')).to.be.closeTo(-13.1007, 1e-9);
    expect(readDegrees('52°24′4.32″N', 'latitude')).to.be.closeTo(52.4012, 1e-9);
    expect(readDegrees('-0.5', 'longitude')).to.equal(-0.5);
    for (const wrong of ['91', '52 75', '13 E', '', 'north']) expect(readDegrees(wrong, 'latitude'), wrong).to.satisfy(Number.isNaN);
  });
});

describe('what a table means', () => {
  it('is told by its names, with units and signs, and only what cannot be known is asked', () => {
    const feet = guess(['Lat', 'Lon', 'Depth (ft)', 'Time UTC'], [['52.1', '13.1', '12.5', '2024-05-31 06:00']]);
    expect(targets(feet)).to.equal('latitude, longitude, depth ft, time');
    expect(feet.mapping.as).to.equal('soundings');
    expect(feet.questions).to.deep.equal([]);

    const bare = guess(['Longitude', 'Latitude', 'Depth', 'Date', 'Time'], [['13.1', '52.1', '-3.5', '31.05.2024', '06:00']]);
    expect(targets(bare)).to.equal('longitude, latitude, depth, date, clock');
    expect(bare.mapping.sign).to.equal('up');
    expect(bare.questions).to.have.members(['unit', 'zone']);

    const heights = guess(['Rechtswert', 'Hochwert', 'Höhe (m)'], [['3456789', '5801234', '31.2']]);
    expect(targets(heights)).to.equal('x, y, elevation m');
    expect(heights.questions).to.have.members(['level', 'crs']);

    const mixed = guess(['lat', 'lon', 'depth_m'], [['52', '13', '-1'], ['52', '13', '0.4']]); // prettier-ignore
    expect(mixed.questions).to.include('sign');
    expect(guess(['a', 'b'], [['x', 'y']]).questions).to.deep.equal(['columns']);
  });
  it('is told by its values where nothing is named; which way round a position stands, by where the water lies', () => {
    expect(firstRowNames([['13.1001', '52.1001', '3.2'], ['13.1002', '52.1002', '3.3']])).to.equal(false); // prettier-ignore
    expect(firstRowNames([['east', 'north', 'z'], ['1', '2', '3']])).to.equal(true); // prettier-ignore
    const rows = [['13.1001', '52.1001', '3.2'], ['13.1002', '52.1002', '3.3']]; // prettier-ignore
    expect(guess(null, rows).questions).to.include('axes');
    const near = guess(null, rows, { near: { latitude: 52, longitude: 13 } });
    expect(targets(near)).to.equal('longitude, latitude, depth');
    expect(near.questions).to.deep.equal(['unit']);
    expect(targets(guess(null, [['398765.1', '5801234.5', '-4.4']], { crs: 32633 }))).to.equal('x, y, depth');
  });
  it('goes to mapping.json and back; what is wrong there is named', () => {
    const { mapping } = guess(['Lat', 'Lon', 'Depth (ft)'], [['52.1', '13.1', '12.5']], { day: '2024-05-31' });
    expect(readMapping(mappingText([mapping]), 'mapping.json').parts).to.deep.equal([mapping]);
    expect(() => readMapping(mappingText([{ ...mapping, as: 'fish' as never }]), 'mapping.json')).to.throw(
      /parts\[0\]\.as must be one of soundings/,
    );
    expect(() => readMapping('{', 'mapping.json')).to.throw(/is not JSON/);
  });
});

describe('soundings of a table', () => {
  it('come in metres below the surface, whatever unit, sign and system they had', () => {
    const read = (
      columns: string[],
      row: string[],
      more: object = {},
      toDegrees: ((x: number, y: number) => [number, number]) | null = null,
    ) => {
      const { mapping } = guess(columns, [row], { day: '2024-05-31' });
      return soundingReader({ ...mapping, ...more }, { names: columns, toDegrees })(row);
    };
    expect(read(['lat', 'lon', 'depth_ft'], ['52.1', '13.1', '10'])).to.include({ latitude: 52.1, longitude: 13.1, depth_m: 3.048, time: '2024-05-31T12:00:00.000Z' }); // prettier-ignore
    expect(read(['lat', 'lon', 'depth fathoms'], ['52.1', '13.1', '-2'])).to.include({ depth_m: 3.6576 });
    expect(read(['lat', 'lon', 'elevation m'], ['52.1', '13.1', '31.2'], { level: 35 })).to.include({ depth_m: 3.8 });
    expect(read(['x', 'y', 'depth m'], ['500', '700', '4'], { crs: 1 }, (x, y) => [x / 100, y / 100])).to.include({
      latitude: 7,
      longitude: 5,
    });
    expect(read(['lat', 'lon', 'depth m', 'temp (F)'], ['52.1', '13.1', '4', '68'])).to.include({ temperature_c: 20 });
    expect(read(['lat', 'lon', 'depth m'], ['52.1', 'x', '4'])).to.deep.equal({ column: 'lon', reason: '"x" is no longitude' });
    expect(read(['lat', 'lon', 'depth m'], ['52.1', '13.1', '4'], { sign: 'up' })).to.have.property(
      'reason',
      'lies 4.0 m above the surface',
    );
  });
  it('are refused as a whole while something is open', () => {
    const { mapping } = guess(['lat', 'lon', 'depth'], [['52', '13', '1']]);
    expect(() => soundingReader(mapping, { names: ['lat', 'lon', 'depth'], toDegrees: null })).to.throw(/the unit of "depth" is not known/);
  });
});

describe('last year’s spreadsheet', () => {
  const names = ['Date', 'Place', 'Species', 'Number', 'Length (cm)', 'Depth (m)', 'Water temp', 'Lure', 'Hours', 'Notes'];
  const rows = [
    ['02.05.2024', 'North Bay', 'perch', '3', '31', '4', '12.5', 'jig', '2', 'on the edge'],
    ['02.05.2024', 'The Point', 'pike', '', '82', '3', '12.5', 'spoon', '1.5', ''],
    ['', 'Old Pier', 'nothing', '0', '', '', '', '', '1', ''],
    ['03.05.2024', 'North Bay', 'perch', '1', '28', '4', '13', 'jig', '3', ''],
    ['31.02.2024', 'North Bay', 'perch', '1', '', '', '', '', '', ''],
  ].map((fields, k) => ({ line: k + 2, fields }));
  const { mapping, questions } = guess(names, rows.map((r) => r.fields)); // prettier-ignore
  const records = catchesOf(
    rows,
    names,
    { ...mapping, zone: 'Europe/Berlin', hours: 'place' },
    [{ name: 'north bay', latitude: 52.1, longitude: 13.1 }],
    'log.csv',
  );
  it('is recognised, and asks for the zone, and of what the hours are', () => {
    expect(mapping.as).to.equal('catches');
    expect(targets({ mapping, questions })).to.equal(
      'date, place, species, number, length cm, depth m, temperature °C, lure, hours, notes',
    );
    expect(questions).to.have.members(['zone', 'hours']);
  });
  it('becomes trips, stops where the place is known, a response a fish, and what was read of the water', () => {
    expect(records.trips.map(({ row }) => [row.trip, row.start, row.end])).to.deep.equal([
      // Two, one and a half and one hour on three places, from noon where no time is said.
      ['2024-05-02 log.csv', '2024-05-02T10:00:00.000Z', '2024-05-02T14:30:00.000Z'],
      ['2024-05-03 log.csv', '2024-05-03T10:00:00.000Z', '2024-05-03T13:00:00.000Z'],
    ]);
    expect(
      records.stops.map(({ row }) => [row.notes, row.outcome, Date.parse(String(row.end)) - Date.parse(String(row.start))]),
    ).to.deep.equal([
      ['North Bay', 'fish', 7_200_000],
      ['North Bay', 'fish', 10_800_000],
    ]);
    expect(records.responses.map(({ row }) => [row.species, row.length_m, row.stop !== null])).to.deep.equal([
      ['perch', 0.31, true],
      ['perch', null, true],
      ['perch', null, true],
      ['pike', 0.82, false],
      ['perch', 0.28, true],
    ]);
    expect(records.responses[3].row.notes).to.equal('at The Point');
    expect(records.conditions.map(({ row }) => row.surface_temperature_c)).to.deep.equal([12.5, 13]);
  });
  it('says which places stand for no spot, and which rows could not be read', () => {
    expect(records.unknownPlaces).to.deep.equal([{ name: 'The Point', rows: 1 }, { name: 'Old Pier', rows: 1 }]); // prettier-ignore
    expect(records.bad).to.have.length(1);
    expect(records.bad[0]).to.include({ line: 6, column: 'Date' });
  });
});
