import { expect } from 'chai';
import { choleskyInPlace, choleskySolve, seeded } from '../../src/numbers';
import {
  CONSTITUENTS,
  constituentNamed,
  extremesOf,
  Harmonics,
  HighLowTable,
  SIMULATED_TIDE,
  streamByTable,
  streamOf,
  tideOf,
  windAgainstTide,
  tidalAngles,
  tideState,
  type HarmonicConstant,
  type StreamRow,
} from '../../src/tide';

const RAD = Math.PI / 180;
const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Moon and sun as Meeus has them in his Astronomical Algorithms, by the largest terms: nothing of it is used by the harmonic method. */
function bodies(at: number): { right: number; declination: number; parallax: number; sidereal: number; weight: number }[] {
  const d = (at - Date.UTC(2000, 0, 1, 12)) / DAY;
  const t = d / 36525;
  const [L, D, M, Mm, F] = [218.3164477 + 481267.88123421 * t, 297.8501921 + 445267.1114034 * t, 357.5291092 + 35999.0502909 * t, 134.9633964 + 477198.8675055 * t, 93.272095 + 483202.0175233 * t]; // prettier-ignore
  const sin = (x: number): number => Math.sin(x * RAD);
  const cos = (x: number): number => Math.cos(x * RAD);
  const moon = {
    longitude:
      L + 6.288774 * sin(Mm) + 1.274027 * sin(2 * D - Mm) + 0.658314 * sin(2 * D) + 0.213618 * sin(2 * Mm) - 0.185116 * sin(M) - 0.114332 * sin(2 * F) + 0.058793 * sin(2 * D - 2 * Mm) + 0.057066 * sin(2 * D - M - Mm) + 0.053322 * sin(2 * D + Mm) + 0.045758 * sin(2 * D - M) - 0.040923 * sin(M - Mm) - 0.03472 * sin(D) - 0.030383 * sin(M + Mm), // prettier-ignore
    latitude:
      5.128122 * sin(F) + 0.280602 * sin(Mm + F) + 0.277693 * sin(Mm - F) + 0.173237 * sin(2 * D - F) + 0.055413 * sin(2 * D - Mm + F) + 0.046271 * sin(2 * D - Mm - F) + 0.032573 * sin(2 * D + F), // prettier-ignore
    distance: 385000.56 - 20905.355 * cos(Mm) - 3699.111 * cos(2 * D - Mm) - 2955.968 * cos(2 * D) - 569.925 * cos(2 * Mm) + 246.158 * cos(2 * D - 2 * Mm) - 204.586 * cos(2 * D - M) - 170.733 * cos(2 * D + Mm) - 152.138 * cos(2 * D - M - Mm) - 129.62 * cos(M - Mm) + 108.743 * cos(D) + 104.755 * cos(M + Mm), // prettier-ignore
  };
  const sun = {
    longitude: 280.46646 + 36000.76983 * t + 1.914602 * sin(M) + 0.019993 * sin(2 * M),
    latitude: 0,
    distance: 1 - 0.01671 * cos(M),
  };
  const tilt = 23.43929 - 0.013004 * t;
  const sidereal = 280.46061837 + 360.98564736629 * d;
  const equatorial = ({ longitude, latitude }: { longitude: number; latitude: number }) => ({
    right: Math.atan2(sin(longitude) * cos(tilt) - Math.tan(latitude * RAD) * sin(tilt), cos(longitude)) / RAD,
    declination: Math.asin(sin(latitude) * cos(tilt) + cos(latitude) * sin(tilt) * sin(longitude)) / RAD,
  });
  return [
    { ...equatorial(moon), parallax: 384400 / moon.distance, sidereal, weight: 1 },
    { ...equatorial(sun), parallax: 1 / sun.distance, sidereal, weight: 0.4599 },
  ];
}

/** The equilibrium tide at 45° north, Greenwich: what the pull of moon and sun alone would do. */
function pull(at: number): number {
  const latitude = 45 * RAD;
  return bodies(at).reduce((sum, { right, declination, parallax, sidereal, weight }) => {
    const hour = (sidereal - right) * RAD;
    const z = Math.sin(latitude) * Math.sin(declination * RAD) + Math.cos(latitude) * Math.cos(declination * RAD) * Math.cos(hour);
    return sum + weight * parallax ** 3 * (3 * z * z - 1);
  }, 0);
}

const WANTED = ['SSA', 'MM', 'MSF', 'MF', '2Q1', 'SIGMA1', 'Q1', 'RHO1', 'O1', 'M1', 'PI1', 'P1', 'K1', 'PHI1', 'J1', 'OO1', '2N2', 'MU2', 'N2', 'NU2', 'M2', 'LAMBDA2', 'L2', 'T2', 'S2', 'K2']; // prettier-ignore

/** Constituents of a year of the pull, found by least squares: amplitude and lag of each, in the terms of the harmonic method. */
function analysed(year: number): Map<string, { amplitude: number; lag: number }> {
  const parts = WANTED.map((name) => constituentNamed(name)!);
  const n = 1 + 2 * parts.length;
  const normal = new Float64Array(n * n);
  const right = new Float64Array(n);
  const row = new Float64Array(n);
  for (let h = 0; h < 369 * 24; h += 1.5) {
    const at = Date.UTC(year, 0, 1) + h * HOUR;
    const angles = tidalAngles(at);
    row[0] = 1;
    parts.forEach((c, k) => {
      const { argument, f } = c.at(angles);
      row[1 + 2 * k] = f * Math.cos(argument * RAD);
      row[2 + 2 * k] = f * Math.sin(argument * RAD);
    });
    const value = pull(at);
    for (let i = 0; i < n; i++) {
      right[i] += row[i] * value;
      for (let j = 0; j <= i; j++) normal[i * n + j] += row[i] * row[j];
    }
  }
  for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) normal[i * n + j] = normal[j * n + i];
  choleskyInPlace(normal, n);
  const found = choleskySolve(normal, n, right);
  return new Map(
    parts.map((c, k) => [
      c.name,
      { amplitude: Math.hypot(found[1 + 2 * k], found[2 + 2 * k]), lag: Math.atan2(found[2 + 2 * k], found[1 + 2 * k]) / RAD },
    ]),
  );
}

describe('constituents of the tide', () => {
  it('go at the speeds of the literature, degrees an hour (Schureman 1958, table 2)', () => {
    const speeds = { M2: 28.9841042, S2: 30, N2: 28.4397295, K2: 30.0821373, K1: 15.0410686, O1: 13.9430356, P1: 14.9589314, Q1: 13.3986609, MF: 1.0980331, MM: 0.5443747, SSA: 0.0821373, SA: 0.0410686, M4: 57.9682084, MS4: 58.9841042, MN4: 57.4238337, M6: 86.9523127, NU2: 28.5125831, MU2: 27.9682084, L2: 29.5284789, '2N2': 27.8953548, J1: 15.5854433, OO1: 16.1391017, M3: 43.4761563, LAMBDA2: 29.4556253, T2: 29.9589333, MSF: 1.0158958 }; // prettier-ignore
    for (const [name, speed] of Object.entries(speeds)) expect(constituentNamed(name)!.speed, name).to.be.closeTo(speed, 2e-6);
    for (const name of CONSTITUENTS) expect(constituentNamed(name)!.speed).to.be.above(0);
    expect(constituentNamed(' m_2 ')!.name).to.equal('M2');
    expect(constituentNamed('Z7')).to.equal(null);
  });

  // No published prediction is at hand to the last digit: the arguments and the node's factors are held against the pull of moon and
  // sun from positions of the two bodies, in years at which the node stands at its ends and between them.
  it('stand where moon and sun do, in strength and phase, whatever the node: an independent calculation', function () {
    this.timeout(120_000);
    const years = [1997, 2002, 2006, 2011].map(analysed);
    // Coefficients of Doodson's development, over that of M2.
    const strength = { N2: 0.1739 / 0.9081, S2: 0.4229 / 0.9081, K2: 0.1149 / 0.9081, K1: 0.5305 / 0.9081, O1: 0.3769 / 0.9081, P1: 0.1755 / 0.9081, Q1: 0.0722 / 0.9081 }; // prettier-ignore
    for (const found of years) {
      const m2 = found.get('M2')!.amplitude;
      for (const name of ['M2', 'S2', 'N2', 'K2', 'K1', 'O1', 'P1', 'Q1'] as const) {
        const { amplitude, lag } = found.get(name)!;
        expect(Math.abs(lag), `lag of ${name}`).to.be.below(name === 'Q1' || name === 'K2' ? 3 : 1.5);
        // At 45° both kinds have the same factor of latitude, one half and one.
        const factor = name.endsWith('1') ? 2 : 1;
        if (name !== 'M2') expect(amplitude / m2 / strength[name] / factor, `strength of ${name}`).to.be.within(0.96, 1.04);
      }
      expect(m2 / years[0].get('M2')!.amplitude).to.be.within(0.99, 1.01);
    }
  });
});

const port: HarmonicConstant[] = [
  { name: 'M2', amplitude: 1.5, phase: 130 },
  { name: 'S2', amplitude: 0.5, phase: 175 },
  { name: 'N2', amplitude: 0.3, phase: 110 },
  { name: 'K1', amplitude: 0.1, phase: 40 },
  { name: 'M4', amplitude: 0.08, phase: 300 },
];

describe('the tide of a place', () => {
  const tide = new Harmonics([...port, { name: 'XX9', amplitude: 1, phase: 0 }], 2.6);
  const from = Date.UTC(2026, 5, 1);

  it('is the sum of its constituents about the mean level; what is unknown is named and left out', () => {
    expect(tide.unknown).to.deep.equal(['XX9']);
    const random = seeded(3);
    for (let k = 0; k < 200; k++) {
      const at = from + 400 * DAY * random();
      const angles = tidalAngles(at);
      const sum = port.reduce((s, { name, amplitude, phase }) => {
        const { argument, f } = constituentNamed(name)!.at(angles);
        return s + f * amplitude * Math.cos((argument - phase) * RAD);
      }, 2.6);
      expect(tide.height(at)).to.be.closeTo(sum, 0.002);
      expect(tide.rate(at)).to.be.closeTo((tide.height(at + 60_000) - tide.height(at - 60_000)) * 30, 0.003);
    }
    expect(new Harmonics([{ name: 'S2', amplitude: 1, phase: 0 }]).height(from)).to.be.closeTo(1, 1e-9);
    expect(new Harmonics([{ name: 'S2', amplitude: 1, phase: 90 }]).height(from + 3 * HOUR)).to.be.closeTo(1, 1e-9);
  });

  it('turns where its rate is nothing, highs and lows by turns, about 12 h 25 min apart', () => {
    const turns = extremesOf(tide, from, from + 30 * DAY);
    expect(turns.length).to.be.within(114, 118);
    turns.forEach((turn, i) => {
      expect(Math.abs(tide.rate(turn.at))).to.be.below(0.002);
      if (i) expect(turn.high).to.equal(!turns[i - 1].high);
    });
    const highs = turns.filter((t) => t.high);
    expect((highs.at(-1)!.at - highs[0].at) / (highs.length - 1) / HOUR).to.be.closeTo(12.42, 0.05);
  });

  it('has springs a day or two after new and full moon, and neaps after the quarters', () => {
    // M2 and S2 are in step when their lags are made up: (175 − 130) / 1.016 an hour, 44 h after new moon.
    const newMoon = Date.UTC(2026, 5, 15, 2, 54);
    expect(tideState(tide, newMoon + 44 * HOUR)!.springs).to.be.above(0.8);
    expect(tideState(tide, newMoon + 44 * HOUR + 7.38 * DAY)!.springs).to.be.below(0.25);
  });

  it('has a state: hours from high water, rising or falling', () => {
    const high = extremesOf(tide, from, from + 2 * DAY).find((t) => t.high)!;
    expect(tideState(tide, high.at + 2 * HOUR)).to.include({ rising: false });
    expect(tideState(tide, high.at + 2 * HOUR)!.fromHigh).to.be.closeTo(2, 0.01);
    expect(tideState(tide, high.at - 2 * HOUR)!.fromHigh).to.be.closeTo(-2, 0.01);
    expect(tideState(tide, high.at - 2 * HOUR)!.next!.at).to.be.closeTo(high.at, 2000);
  });
});

describe('a typed table of high and low waters', () => {
  const at = (hours: number): number => Date.UTC(2026, 5, 1) + hours * HOUR;
  const rows = [[1, 4.2], [7.2, 1.0], [13.4, 4.0], [38.2, 4.4], [44.5, 0.8]].map(([hours, height]) => ({ at: at(hours), height })); // prettier-ignore
  const table = new HighLowTable(rows);
  it('goes by half a cosine from turn to turn: twelfths by the hour', () => {
    const sixth = (k: number): number => table.height(at(1 + (k * 6.2) / 6));
    expect(sixth(0)).to.equal(4.2);
    for (const [k, twelfths] of [[1, 0.8], [2, 3], [3, 6], [4, 9], [5, 11.2], [6, 12]]) expect(sixth(k)).to.be.closeTo(4.2 - (3.2 * twelfths) / 12, 0.005); // prettier-ignore
    expect(tideState(table, at(4))!.last!.height).to.be.closeTo(4.2, 1e-6);
  });
  it('says for which spans it speaks, and nothing of the day that is missing', () => {
    expect(table.spans()).to.deep.equal([
      [at(1), at(13.4)],
      [at(38.2), at(44.5)],
    ]);
    expect(table.height(at(20))).to.be.NaN;
    expect(table.height(at(0.5))).to.be.NaN;
    expect(tideState(table, at(20))).to.equal(null);
  });
});

describe('springs and neaps', () => {
  it('are the same whichever moment was asked for before', () => {
    const at = Date.UTC(2026, 6, 3, 9);
    const alone = tideState(tideOf({ ...SIMULATED_TIDE })!, at);
    const tide = tideOf({ ...SIMULATED_TIDE })!;
    for (const before of [at - 40 * 86_400_000, at + 3_600_000, at - 86_400_000]) {
      tideState(tide, before);
      expect(tideState(tide, at)).to.deep.equal(alone);
    }
    expect(alone!.springs).to.be.within(0, 1);
  });
});

describe('a stream by harmonic constants', () => {
  // An ellipse by hand: 0.8 m/s to the east as M2 is at its lag of 100°, a quarter of its period later 0.3 m/s to the north, and
  // 0.1 m/s to the south whatever the tide.
  const record = {
    ...SIMULATED_TIDE,
    stream_constants: [
      { name: 'M2', east_ms: 0.8, east_phase_deg: 100, north_ms: 0.3, north_phase_deg: 190 },
      { name: 'Z0', east_ms: 0, east_phase_deg: 0, north_ms: -0.1, north_phase_deg: 0 },
    ],
  };
  it('goes round its ellipse as the heights of the same constants do, and goes before the table', () => {
    const M2 = (amplitude: number, phase: number): Harmonics => new Harmonics([{ name: 'M2', amplitude, phase }]);
    const crest = extremesOf(M2(0.8, 100), Date.UTC(2026, 4, 3), Date.UTC(2026, 4, 5)).find((t) => t.high)!;
    const quarter = (12.4206012 / 4) * 3_600_000;
    const parts = (at: number): [number, number] => {
      const { set, rate } = streamOf(record, at)!;
      return [rate * Math.sin((set * Math.PI) / 180), rate * Math.cos((set * Math.PI) / 180)];
    };
    const strength = crest.height / 0.8;
    const at = parts(crest.at);
    expect(at[0]).to.be.closeTo(0.8 * strength, 1e-6);
    expect(at[1]).to.be.closeTo(-0.1, 2e-3);
    const later = parts(crest.at + quarter);
    expect(later[0]).to.be.closeTo(0, 2e-3);
    expect(later[1]).to.be.closeTo(0.3 * strength - 0.1, 2e-3);
    for (let h = 0; h < 50; h++) {
      const t = crest.at + h * 3_600_000;
      expect(parts(t)[0]).to.be.closeTo(M2(0.8, 100).height(t), 1e-9);
      expect(parts(t)[1]).to.be.closeTo(M2(0.3, 190).height(t) - 0.1, 1e-9);
    }
  });
});

describe('a stream by the hour of the tide', () => {
  const rows: StreamRow[] = [
    { hour: -6, set: 90, springs: 0.2, neaps: 0.1 },
    { hour: -3, set: 90, springs: 1.2, neaps: 0.6 },
    { hour: 0, set: 90, springs: 0, neaps: 0 },
    { hour: 3, set: 270, springs: 1.0, neaps: 0.5 },
    { hour: 6, set: 270, springs: 0.1, neaps: 0.05 },
  ];
  it('is between the rows as a vector, between neaps and springs by the range', () => {
    expect(streamByTable(rows, { fromHigh: -3, springs: 1 })).to.deep.equal({ set: 90, rate: 1.2 });
    expect(streamByTable(rows, { fromHigh: -3, springs: 0 })!.rate).to.be.closeTo(0.6, 1e-12);
    expect(streamByTable(rows, { fromHigh: -1.5, springs: 0.5 })!.rate).to.be.closeTo(0.45, 1e-12);
    const turned = streamByTable(rows, { fromHigh: 1.5, springs: 1 })!;
    expect([turned.set, turned.rate]).to.deep.equal([270, 0.5]);
  });
  it('stands up against a fresh wind that comes from where it goes', () => {
    expect(windAgainstTide({ set: 80, rate: 0.8 }, 100, 8)).to.equal(true);
    expect(windAgainstTide({ set: 10, rate: 0.8 }, 350, 8)).to.equal(true);
    expect(windAgainstTide({ set: 80, rate: 0.8 }, 260, 8)).to.equal(false);
    expect(windAgainstTide({ set: 80, rate: 0.8 }, 80, 4)).to.equal(false);
    expect(windAgainstTide({ set: 80, rate: 0.3 }, 80, 8)).to.equal(false);
    // Of a record: by its own tide and table.
    const high = extremesOf(tideOf(SIMULATED_TIDE)!, 0, DAY).find((t) => t.high)!;
    expect(streamOf(SIMULATED_TIDE, high.at - 4 * HOUR)!.set).to.be.closeTo(66, 0.5);
    expect(streamOf({ ...SIMULATED_TIDE, stream: [] }, high.at)).to.equal(null);
  });
  it('goes on past its ends into the next tide, and says nothing without one', () => {
    // Halfway from 6 h after to 6 h before the next: the sum of a tenth west and a fifth east.
    const slack = streamByTable(rows, { fromHigh: 6.21, springs: 1 })!;
    expect(slack.set).to.be.closeTo(90, 1e-9);
    expect(slack.rate).to.be.closeTo(0.05, 1e-9);
    expect(streamByTable(rows, { fromHigh: null, springs: 1 })).to.equal(null);
    expect(streamByTable([], { fromHigh: 0, springs: 1 })).to.equal(null);
  });
});
