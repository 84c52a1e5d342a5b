import { highWaterSprings, SIMULATED_TIDE, tideOf, type TideRecord } from '@restless-shoal/core/tide';
import { bell, runOf, type FishRules } from './fish-rules';
import type { Scenario } from './logbook';
import { smoothNoise, type Random } from './random';
import { valley, type CoverThing, type Rise, type Shape } from './shape';

/** Where there is no foreshore: well over the highest water, m. */
const LAND = -9;

/** An arm of the sea: deep at its mouth in the west, with a reef, a wreck and two banks. The tide runs along it. */
export function sound(seed: number, random: Random): Shape {
  const [width, height] = [random.even(3600, 4300), random.even(2300, 2700)];
  const bend = random.even(0.6, 1.1);
  const rough = smoothNoise(seed + 1, 480);
  const fine = smoothNoise(seed + 2, 140);
  const mouth = random.even(22, 27);
  const line = (x: number): number => height * (0.5 + 0.06 * Math.sin((x / width) * Math.PI * 2 * bend));
  const flatDepth = (x: number, y: number): number => {
    if (x <= 60 || x >= width) return LAND;
    const along = x / width;
    const head = Math.sqrt(Math.min(1, (width - x) / 500));
    const half = (900 - 320 * along) * (1 + 0.3 * rough(x, y) + 0.1 * fine(x, y)) * head;
    const d = half > 0 ? valley((mouth - (mouth - 9) * along) * head, half, Math.abs(y - line(x))) : LAND;
    return d + 0.9 * rough(x * 1.4, y * 1.4) + 0.4 * fine(x, y);
  };
  const on = (at: number, off: number): { x: number; y: number; deep: number } => {
    const [x, y] = [width * (at + random.even(-0.03, 0.03)), line(width * at) + off + random.even(-40, 40)];
    return { x, y, deep: flatDepth(x, y) };
  };
  // The reef lies across the stream, more or less.
  const reef = on(0.42, 230);
  const lies = random.even(-0.5, 0.5) + Math.PI / 2;
  const chain = [-2.5, -1.5, -0.5, 0.5, 1.5, 2.5].map((k) => ({
    x: reef.x + k * 42 * Math.cos(lies),
    y: reef.y + k * 42 * Math.sin(lies),
    radius: 36,
    height: 0.28 * reef.deep,
  }));
  const wreck = on(0.6, -190);
  const banks = [on(0.24, -280), on(0.74, 150)].map(({ x, y, deep }): Rise => ({
    x,
    y,
    radius: random.even(120, 170),
    height: 0.5 * deep,
    soft: true,
  }));
  const rises: Rise[] = [...chain, { ...wreck, radius: 18, height: 2.6 }, ...banks];
  const hull = random.even(0, Math.PI);
  const cover = (depth: (x: number, y: number) => number, draws: Random): CoverThing[] => {
    const things: CoverThing[] = [
      ...chain.flatMap(({ x, y }): CoverThing[] =>
        [0, 1, 2].map(() => ({ kind: 'cover', cover: 'reef', points: [[x + draws.normal(0, 16), y + draws.normal(0, 16)]] })),
      ),
      ...[-20, -7, 7, 20].map((s): CoverThing => ({
        kind: 'cover',
        cover: 'wreck',
        points: [[wreck.x + s * Math.cos(hull), wreck.y + s * Math.sin(hull)]],
      })),
    ];
    for (let tries = 0, stones = 0; stones < 14 && tries < 500; tries++) {
      const [x, y] = [draws.even(200, width - 300), draws.even(0, height)];
      if (depth(x, y) < 4) continue;
      stones++;
      things.push({ kind: 'cover', cover: 'rock', points: [[x, y]] });
    }
    return things;
  };
  const shore = highWaterSprings(tideOf(SOUND_TIDE)!, Date.UTC(2026, 6, 1));
  return { width, height, flatDepth, shore, channelAt: () => 0, launch: [width * 0.8, height * 0.95], rises, most: 13, cover };
}

/** The made-up tide, its streams along the sound: the flood to the east. */
export const SOUND_TIDE: TideRecord = {
  ...SIMULATED_TIDE,
  stream: [
    { hour: -6, set_deg: 92, springs_ms: 0.15, neaps_ms: 0.1 },
    { hour: -4, set_deg: 88, springs_ms: 0.85, neaps_ms: 0.45 },
    { hour: -2, set_deg: 86, springs_ms: 0.95, neaps_ms: 0.5 },
    { hour: 0, set_deg: 90, springs_ms: 0.15, neaps_ms: 0.1 },
    { hour: 2, set_deg: 268, springs_ms: 0.9, neaps_ms: 0.5 },
    { hour: 4, set_deg: 271, springs_ms: 0.95, neaps_ms: 0.5 },
    { hour: 6, set_deg: 265, springs_ms: 0.2, neaps_ms: 0.1 },
  ],
};

const bait = {
  bait: true,
  count: [80, 600] as [number, number],
  food: 0,
  bites: 0,
  length: [0.12, 0.02] as [number, number],
  form: ['ball', 'cloud'],
  core: ['weak'],
  largerBelow: 0,
};
const plain = {
  bait: false,
  food: 0.6,
  bites: 0.09,
  form: ['arches', 'arches', 'specks'],
  core: ['medium', 'strong'],
  largerBelow: 0.02,
};
/** So many metres over the bottom, on average. */
const over =
  (spread: number) =>
  (water: number, _: unknown, random: Random): number =>
    water - Math.abs(random.normal(0, spread)) - 0.2;

/** What lives in the sound: who hunts on which side of what runs with the tide. */
export const SOUND_FISH: FishRules = [
  {
    ...bait,
    name: 'sand eel',
    packs: 90,
    places: 4,
    want: (g, s) => (1.2 - g.hard) * (0.4 + Math.max(0, g.rise)) * (1 + 1.2 * Math.max(0, runOf(g, s).face)),
    depth: (water, _, random) => water - Math.abs(random.normal(0, 1.2)) - 0.3,
    takenFor: [['sand eel', 1]],
  },
  {
    ...bait,
    name: 'sprat',
    packs: 70,
    places: 5,
    want: (g, _, blown) => (g.depth > 7 ? 1 : 0.1) * (0.6 + Math.min(1, blown)),
    depth: (water, _, random) => Math.min(water - 1, random.even(2, 8)),
    takenFor: [['sprat', 1]],
  },
  {
    ...plain,
    name: 'pollack',
    packs: 120,
    count: [1, 8],
    places: 0,
    lasting: 0.6,
    want: (g, s) => {
      const { strong, face, cover } = runOf(g, s);
      return (
        bell(g.depth, 13, 6) *
        (0.06 + 1.6 * g.wood + 0.5 * g.hard ** 2 * Math.max(0, g.rise)) *
        Math.exp(1.5 * face + 1.9 * cover) *
        (0.6 + 0.7 * strong)
      );
    },
    depth: over(2.2),
    length: [0.55, 0.12],
    takenFor: [
      ['pollack', 0.85],
      ['cod', 0.15],
    ],
  },
  {
    ...plain,
    name: 'cod',
    packs: 280,
    count: [1, 5],
    places: 1,
    lasting: 0.7,
    want: (g, s) => {
      const { face, cover } = runOf(g, s);
      return (
        bell(g.depth, s.weather.surface > 13 ? 19 : 13, 5) * (0.25 + 0.8 * g.wood + 0.5 * g.hard) * Math.exp(-1.4 * face - 1.5 * cover)
      );
    },
    depth: over(0.8),
    length: [0.6, 0.14],
    takenFor: [
      ['cod', 0.85],
      ['pollack', 0.15],
    ],
  },
  {
    ...plain,
    name: 'sea bass',
    packs: 160,
    count: [1, 9],
    places: 2,
    lasting: 0.6,
    food: 1.2,
    want: (g, s) => {
      const { strong, face } = runOf(g, s);
      // Over the banks and the shallows about high water, on the side that the stream strikes; off them at low water.
      const best = 7 + 2.5 * Math.cos(((s.fromHigh + 6.2) * 2 * Math.PI) / 12.42);
      return bell(g.depth, best, 2.2) * (0.3 + 0.6 * Math.max(0, g.rise)) * Math.exp(1.3 * face) * (0.4 + strong);
    },
    depth: over(1.5),
    length: [0.5, 0.1],
    takenFor: [
      ['sea bass', 0.85],
      ['pollack', 0.15],
    ],
  },
];

/** A made-up sound with a reef, a wreck, two banks and a tide. */
export const SOUND: Scenario = {
  shape: 'sound',
  water: { clearer: 2.2, layers: false, deeper: 0, keepsOxygen: 8, warmer: 0.4, swing: 4.4 },
  fish: SOUND_FISH,
  kind: 'coast',
  datum: 'chart datum',
  tide: SOUND_TIDE,
};
