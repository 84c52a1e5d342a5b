// The constituents of the tide: where each stands at a moment, and what the moon's node does to it.
// Sources: Doodson 1921 and Schureman 1958, Manual of Harmonic Analysis and Prediction of Tides, for arguments; Doodson & Warburg 1941,
// Admiralty Manual of Tides, for the series of f and u; Meeus 1998, Astronomical Algorithms, for the mean longitudes.

const RAD = Math.PI / 180;
const HOUR = 3_600_000;
/** Noon of 1 January 2000, ms. */
const J2000 = Date.UTC(2000, 0, 1, 12);
const CENTURY = 36_525 * 24 * HOUR;

/** Mean longitudes at a moment, degrees. */
export interface TidalAngles {
  /** Hour angle of the mean sun from midnight at Greenwich. */
  hour: number;
  moon: number;
  sun: number;
  /** Of the moon's perigee, of its ascending node, of the sun's perigee. */
  perigee: number;
  node: number;
  solarPerigee: number;
}

export function tidalAngles(at: number): TidalAngles {
  const t = (at - J2000) / CENTURY;
  return {
    hour: ((((at / HOUR) % 24) + 24) % 24) * 15,
    moon: 218.3164477 + 481267.88123421 * t,
    sun: 280.46646 + 36000.76983 * t,
    perigee: 83.3532465 + 4069.0137287 * t,
    node: 125.04452 - 1934.136261 * t,
    solarPerigee: 282.93735 + 1.71946 * t,
  };
}

/** What the moon's node does to a constituent: a factor of its amplitude, and degrees of its phase. */
export interface NodeFactor {
  f: number;
  u: number;
}

type NodeRule = (node: number, perigee: number) => NodeFactor;
const series =
  (f: number[], u: number[]): NodeRule =>
  (node) => ({
    f: f.reduce((sum, c, k) => sum + c * Math.cos(k * node * RAD), 0),
    u: u.reduce((sum, c, k) => sum + c * Math.sin((k + 1) * node * RAD), 0),
  });
/** From its part in phase and its part a quarter ahead. */
const polar = (across: number, up: number): NodeFactor => ({ f: Math.hypot(across, up), u: Math.atan2(up, across) / RAD });

const NODE = {
  none: (): NodeFactor => ({ f: 1, u: 0 }),
  Mm: series([1, -0.13, 0.0013], []),
  Mf: series([1.0429, 0.4135, -0.004], [-23.74, 2.68, -0.38]),
  O1: series([1.0089, 0.1871, -0.0147, 0.0014], [10.8, -1.34, 0.19]),
  K1: series([1.006, 0.115, -0.0088, 0.0006], [-8.86, 0.68, -0.07]),
  J1: series([1.0129, 0.1676, -0.017, 0.0016], [-12.94, 1.34, -0.19]),
  OO1: series([1.1027, 0.6504, 0.0317, -0.0014], [-36.68, 4.02, -0.57]),
  M2: series([1.0004, -0.0373, 0.0002], [-2.14]),
  K2: series([1.0241, 0.2863, 0.0083, -0.0015], [-17.74, 0.68, -0.04]),
  M1: (n, p) => polar(2 * Math.cos(p * RAD) + 0.4 * Math.cos((p - n) * RAD), Math.sin(p * RAD) + 0.2 * Math.sin((p - n) * RAD)),
  L2: (n, p) =>
    polar(
      1 - 0.2505 * Math.cos(2 * p * RAD) - 0.1103 * Math.cos((2 * p - n) * RAD) - 0.0156 * Math.cos((2 * p - 2 * n) * RAD) - 0.037 * Math.cos(n * RAD), // prettier-ignore
      -0.2505 * Math.sin(2 * p * RAD) - 0.1103 * Math.sin((2 * p - n) * RAD) - 0.0156 * Math.sin((2 * p - 2 * n) * RAD) - 0.037 * Math.sin(n * RAD), // prettier-ignore
    ),
} satisfies Record<string, NodeRule>;

/** Multiples of hour angle, moon, sun, moon's perigee and sun's perigee; degrees beside them; which rule of the node. */
type Argument = [hour: number, moon: number, sun: number, perigee: number, solarPerigee: number, degrees: number, node: keyof typeof NODE];

const ARGUMENTS: Record<string, Argument> = {
  SA: [0, 0, 1, 0, 0, 0, 'none'],
  SSA: [0, 0, 2, 0, 0, 0, 'none'],
  MM: [0, 1, 0, -1, 0, 0, 'Mm'],
  MSF: [0, 2, -2, 0, 0, 0, 'M2'],
  MF: [0, 2, 0, 0, 0, 0, 'Mf'],
  '2Q1': [1, -4, 1, 2, 0, -90, 'O1'],
  SIGMA1: [1, -4, 3, 0, 0, -90, 'O1'],
  Q1: [1, -3, 1, 1, 0, -90, 'O1'],
  RHO1: [1, -3, 3, -1, 0, -90, 'O1'],
  O1: [1, -2, 1, 0, 0, -90, 'O1'],
  M1: [1, -1, 1, 0, 0, 90, 'M1'],
  PI1: [1, 0, -2, 0, 1, -90, 'none'],
  P1: [1, 0, -1, 0, 0, -90, 'none'],
  S1: [1, 0, 0, 0, 0, 180, 'none'],
  K1: [1, 0, 1, 0, 0, 90, 'K1'],
  PHI1: [1, 0, 3, 0, 0, 90, 'none'],
  J1: [1, 1, 1, -1, 0, 90, 'J1'],
  OO1: [1, 2, 1, 0, 0, 90, 'OO1'],
  '2N2': [2, -4, 2, 2, 0, 0, 'M2'],
  MU2: [2, -4, 4, 0, 0, 0, 'M2'],
  N2: [2, -3, 2, 1, 0, 0, 'M2'],
  NU2: [2, -3, 4, -1, 0, 0, 'M2'],
  M2: [2, -2, 2, 0, 0, 0, 'M2'],
  LAMBDA2: [2, -1, 0, 1, 0, 180, 'M2'],
  L2: [2, -1, 2, -1, 0, 180, 'L2'],
  T2: [2, 0, -1, 0, 1, 0, 'none'],
  S2: [2, 0, 0, 0, 0, 0, 'none'],
  R2: [2, 0, 1, 0, -1, 180, 'none'],
  K2: [2, 0, 2, 0, 0, 0, 'K2'],
  S4: [4, 0, 0, 0, 0, 0, 'none'],
  S6: [6, 0, 0, 0, 0, 0, 'none'],
};

/** Constituents of shallow water: sums of others. */
const COMPOUNDS: Record<string, [name: string, times: number][]> = {
  MO3: [['M2', 1], ['O1', 1]],
  '2MK3': [['M2', 2], ['K1', -1]],
  MK3: [['M2', 1], ['K1', 1]],
  SK3: [['S2', 1], ['K1', 1]],
  MN4: [['M2', 1], ['N2', 1]],
  M4: [['M2', 2]],
  SN4: [['S2', 1], ['N2', 1]],
  MS4: [['M2', 1], ['S2', 1]],
  MK4: [['M2', 1], ['K2', 1]],
  '2MN6': [['M2', 2], ['N2', 1]],
  M6: [['M2', 3]],
  '2MS6': [['M2', 2], ['S2', 1]],
  '2SM6': [['S2', 2], ['M2', 1]],
  M8: [['M2', 4]],
  '2SM2': [['S2', 2], ['M2', -1]],
  '2MS2': [['M2', 2], ['S2', -1]],
}; // prettier-ignore

/** Other spellings of names that tables have. */
const ALIASES: Record<string, string> = { LAM2: 'LAMBDA2', LDA2: 'LAMBDA2', SIG1: 'SIGMA1', RHO: 'RHO1', NIU2: 'NU2', MIU2: 'MU2' }; // prettier-ignore

/** A constituent as it stands at a moment. */
export interface Constituent {
  name: string;
  /** Degrees an hour. */
  speed: number;
  /** V + u, degrees; and f. */
  at(angles: TidalAngles): { argument: number; f: number };
}

function single(name: string): Constituent {
  const [hour, moon, sun, perigee, solarPerigee, degrees, node] = ARGUMENTS[name];
  const perHour = (perCentury: number): number => perCentury / (36_525 * 24);
  return {
    name,
    speed: 15 * hour + perHour(moon * 481267.88123421 + sun * 36000.76983 + perigee * 4069.0137287 + solarPerigee * 1.71946),
    at: (a) => {
      const { f, u } = NODE[node](a.node, a.perigee);
      const v = hour * a.hour + moon * a.moon + sun * a.sun + perigee * a.perigee + solarPerigee * a.solarPerigee + degrees;
      return { argument: v + u, f };
    },
  };
}

function compound(name: string): Constituent {
  const parts = COMPOUNDS[name].map(([part, times]) => ({ part: single(part), times }));
  return {
    name,
    speed: parts.reduce((sum, { part, times }) => sum + times * part.speed, 0),
    at: (angles) => {
      let [argument, f] = [0, 1];
      for (const { part, times } of parts) {
        const found = part.at(angles);
        argument += times * found.argument;
        f *= found.f ** Math.abs(times);
      }
      return { argument, f };
    },
  };
}

/** Names of all constituents that are known. */
export const CONSTITUENTS: readonly string[] = [...Object.keys(ARGUMENTS), ...Object.keys(COMPOUNDS), 'M3'];

/** A constituent by its name, in any spelling that is common; null where none is called so. */
export function constituentNamed(name: string): Constituent | null {
  const plain = name
    .trim()
    .toUpperCase()
    .replace(/[\s_-]/g, '');
  const key = plain in ARGUMENTS || plain in COMPOUNDS ? plain : (ALIASES[plain] ?? plain);
  if (key === 'M3') {
    // Three times half of M2.
    const half = single('M2');
    return {
      name: 'M3',
      speed: 1.5 * half.speed,
      at: (a) => {
        const v = 3 * (a.hour - a.moon + a.sun);
        const { f, u } = NODE.M2(a.node, a.perigee);
        return { argument: v + 1.5 * u, f: f ** 1.5 };
      },
    };
  }
  if (key in ARGUMENTS) return single(key);
  return key in COMPOUNDS ? compound(key) : null;
}
