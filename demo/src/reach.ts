import { bell, runOf, type FishRules } from './fish-rules';
import type { Scenario } from './logbook';
import { smoothNoise, type Random } from './random';
import type { CoverThing, Flow, Shape } from './shape';

/** A spur of rock from a bank with the slack water behind it. */
export interface Spur {
  /** Its place along the river and the bank it stands on: 1 is the left one, seen down-stream. */
  at: number;
  bank: 1 | -1;
  /** How far it reaches into the river, m. */
  out: number;
}

/** An eddy grows narrower by one in so many metres behind its spur. */
const CLOSES = 5;

/** A river that winds from west to east between two weirs, deep on the outside of its bends, with spurs of rock. */
export function reach(seed: number, random: Random): Shape & { spurs: Spur[]; flowAt: (x: number, y: number) => Flow } {
  const [width, height] = [2700, 1000];
  const phase = random.even(0, 6.28);
  const wave = random.even(1500, 1900);
  const swing = random.even(120, 170);
  const wideness = random.even(85, 100);
  const fine = smoothNoise(seed + 2, 90);
  const line = (x: number): number => height / 2 + swing * Math.sin((x / wave) * 2 * Math.PI + phase);
  const slopeOf = (x: number): number => ((swing * 2 * Math.PI) / wave) * Math.cos((x / wave) * 2 * Math.PI + phase);
  // 1 where the river turns hardest to one side.
  const turn = (x: number): number => -Math.sin((x / wave) * 2 * Math.PI + phase);
  const spurs = [0.2, 0.42, 0.61, 0.8].map((at, k): Spur => ({
    at: width * (at + random.even(-0.03, 0.03)),
    bank: k % 2 ? 1 : -1,
    out: wideness * random.even(0.6, 0.8),
  }));
  /** Distance to the left of the middle, seen down-stream; the line is nearly straight over a river's width. */
  const offOf = (x: number, y: number): number => (y - line(x)) / Math.hypot(1, slopeOf(x));
  const flatDepth = (x: number, y: number): number => {
    if (x < 40 || x > width - 40) return -1;
    const off = offOf(x, y);
    const share = Math.abs(off) / wideness;
    if (share >= 1) return -1;
    for (const s of spurs) {
      const along = Math.abs(x - s.at);
      // As wide as a boat is long at its tip, wider at the bank.
      const reaches = s.out * (1 - (along / 22) ** 2);
      if (along < 22 && off * s.bank > wideness - reaches) return -1;
    }
    return 2.1 * (1 - share ** 2.2) + 1.1 * turn(x) * (off / wideness) * (1 - share ** 2) + 0.9 + 0.25 * fine(x, y) - 0.9 * share ** 4;
  };
  const flowAt = (x: number, y: number): Flow => {
    const off = offOf(x, y);
    const tangent: [number, number] = [1 / Math.hypot(1, slopeOf(x)), slopeOf(x) / Math.hypot(1, slopeOf(x))];
    let [seam, eddy]: [number | null, boolean] = [null, false];
    for (const s of spurs) {
      const behind = x - s.at;
      const edge = wideness - s.out + behind / CLOSES;
      if (behind < 0 || edge > wideness) continue;
      const from = off * s.bank - edge;
      if (from > 0) eddy = true;
      if (Math.abs(from) < 60) seam = Math.abs(from);
    }
    const speed = eddy ? -0.25 : Math.max(0.3, (Math.max(0.2, flatDepth(x, y)) / 2.4) ** (2 / 3));
    return { along: [tangent[0] * speed, tangent[1] * speed], seam, eddy };
  };
  const cover = (depth: (x: number, y: number) => number, draws: Random): CoverThing[] => {
    const things: CoverThing[] = [];
    for (let tries = 0; things.length < 26 && tries < 2000; tries++) {
      const x = draws.even(100, width - 100);
      const y = line(x) + draws.even(-0.85, 0.85) * wideness;
      if (depth(x, y) > 0.8) things.push({ kind: 'cover', cover: things.length % 3 ? 'rock' : 'timber', points: [[x, y]] });
    }
    return things;
  };
  return { width, height, flatDepth, channelAt: () => 0, launch: [300, height], most: 0, cover, spurs, flowAt };
}

const plain = { bait: false, food: 0, bites: 0.08, form: ['arches', 'specks'], core: ['medium'], largerBelow: 0 };
const low =
  (spread: number) =>
  (water: number, _: unknown, random: Random): number =>
    water - Math.abs(random.normal(0, spread)) - 0.1;

/** What lives in the river. */
export const REACH_FISH: FishRules = [
  {
    ...plain,
    bait: true,
    name: 'bleak',
    packs: 30,
    count: [60, 300],
    places: 4,
    want: (g) => (g.depth > 1 ? 1 : 0.2) * (0.4 + 1.6 * g.seam),
    depth: (water, _, random) => water * random.even(0.2, 0.5),
    bites: 0,
    length: [0.12, 0.02],
    form: ['ball', 'cloud'],
    core: ['weak'],
    takenFor: [['bleak', 1]],
  },
  {
    ...plain,
    name: 'barbel',
    packs: 80,
    count: [1, 8],
    places: 0,
    lasting: 0.5,
    want: (g, s) => (0.2 + g.hard) * bell(g.depth, 2.6, 0.9) * Math.exp(1.5 * runOf(g, s).cover) * (g.flow && g.flow[0] < 0 ? 0.2 : 1),
    depth: low(0.15),
    length: [0.55, 0.1],
    takenFor: [
      ['barbel', 0.85],
      ['chub', 0.15],
    ],
  },
  {
    ...plain,
    name: 'asp',
    packs: 70,
    count: [1, 3],
    places: 1,
    lasting: 0.4,
    want: (g) => (0.12 + 2.4 * g.seam) * bell(g.depth, 2, 1.1),
    depth: (water, _, random) => water * random.even(0.25, 0.7),
    length: [0.5, 0.1],
    takenFor: [
      ['asp', 0.85],
      ['chub', 0.15],
    ],
  },
  {
    ...plain,
    name: 'pike',
    packs: 45,
    count: [1, 1],
    places: 2,
    lasting: 0.5,
    want: (g) => (g.flow && g.flow[0] < 0 ? 1 : 0.08) * (0.5 + g.wood) * bell(g.depth, 1.8, 1),
    depth: low(0.4),
    length: [0.7, 0.14],
    takenFor: [['pike', 1]],
  },
];

/** A made-up reach of a river. */
export const REACH: Scenario = {
  shape: 'reach',
  water: { clearer: -0.9, layers: false, deeper: 0, keepsOxygen: 8, warmer: 1, swing: 8 },
  fish: REACH_FISH,
  kind: 'river',
  datum: 'usual level',
  flow: 0.7,
};
