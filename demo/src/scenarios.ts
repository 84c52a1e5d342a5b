import { RESERVOIR } from './climate';
import { bell, overBottom, type FishKind, type FishRules } from './fish-rules';
import type { Scenario } from './logbook';
import { VALLEY_FISH } from './fish-valley';
import { Random } from './random';
import type { ShapeKind } from './shapes';

const PLAIN = {
  bait: false,
  count: [1, 6] as [number, number],
  food: 0,
  bites: 0.08,
  length: [0.45, 0.1] as [number, number],
  form: ['arches', 'arches', 'specks'],
  core: ['medium', 'strong'],
  largerBelow: 0,
  depth: overBottom(0.8),
};
const BAIT = {
  ...PLAIN,
  bait: true,
  count: [80, 600] as [number, number],
  bites: 0,
  length: [0.1, 0.02] as [number, number],
  form: ['ball', 'cloud'],
  core: ['weak'],
};

/** A water whose fish follow rules drawn from a seed: for trying the forecast on many rules. */
export function drawnScenario(seed: number, shape: ShapeKind): Scenario {
  const random = new Random(seed * 613 + 29);
  const names = ['zander', 'perch', 'pike', 'bream'];
  const hunters = names.map((name, k): FishKind => {
    const [cold, warm, hot] = [random.even(3, 11), random.even(2, 7), random.even(2.5, 9)];
    const spread = random.even(0.9, 2.4);
    const [hard, rise, channel, wood, weed, wind] = [1.6, 1, 0.9, 1.6, 1.4, 1].map((most) => Math.max(0, random.even(-0.5, 1)) * most);
    const soft = random.chance(0.3);
    const follows = random.chance(0.5);
    const others = names.filter((other) => other !== name);
    const right = random.even(0.7, 0.9);
    return {
      ...PLAIN,
      name,
      packs: Math.round(random.even(70, 260)),
      count: [1, random.whole(1, 12)],
      places: k,
      lasting: random.even(0.4, 1.1),
      want: (g, { weather: { surface, thermocline }, floor }, blown) => {
        const best = surface < 9 ? cold : thermocline != null ? (follows ? Math.min(floor, thermocline) - 1.2 : hot) : warm;
        const ground = 0.3 + (soft ? hard * (1 - g.hard) : hard * g.hard ** 2) + rise * Math.max(0, g.rise) + channel * g.channel;
        return bell(g.depth, best, spread) * ground * (1 + wood * g.wood) * (1 + weed * g.weed) * (1 + wind * Math.min(1, blown));
      },
      depth: overBottom(random.even(0.5, 1.3)),
      food: Math.max(0, random.even(-1, 2)),
      takenFor: [[name, right], ...others.slice(0, 2).map((other): [string, number] => [other, (1 - right) / 2])],
    };
  });
  const bait: FishRules = [
    {
      ...BAIT,
      name: 'smelt',
      packs: 120,
      places: 5,
      want: (g, _, blown) => (g.depth > 4 ? 1 : 0.05) * (0.4 + 1.8 * Math.min(1, blown)),
      depth: (water, _, r) => Math.min(water - 0.8, r.even(2, 5)),
      takenFor: [['smelt', 1]],
    },
    {
      ...BAIT,
      name: 'roach',
      packs: 90,
      places: 6,
      want: (g, { weather }) => bell(g.depth, weather.surface < 9 ? 6 : 2.6, 1.6) * (0.2 + 1.2 * g.weed + 0.5 * g.wood),
      depth: (water, _, r) => water * r.even(0.35, 0.8),
      takenFor: [['roach', 1]],
    },
  ];
  return { shape, water: { ...RESERVOIR, clearer: random.even(-0.8, 1.5), deeper: random.even(-0.8, 1.5) }, fish: [...bait, ...hunters] };
}

/** A deep, clear, cold lake: char and trout about the thermocline over deep water, whitefish on soft bottom, perch on the shelf. */
const COLD_FISH: FishRules = [
  {
    ...BAIT,
    name: 'vendace',
    packs: 130,
    places: 3,
    want: (g, { weather: { thermocline } }, blown) => (g.depth > (thermocline ?? 8) ? 1 : 0.04) * (0.7 + Math.min(1, blown)),
    depth: (water, { weather: { thermocline } }, r) => Math.min(water - 1, (thermocline ?? 9) + r.normal(0.5, 1)),
    takenFor: [['vendace', 1]],
  },
  {
    ...PLAIN,
    name: 'arctic char',
    packs: 190,
    count: [1, 4],
    places: 0,
    lasting: 0.7,
    food: 1.6,
    want: (g, { weather: { surface, thermocline } }) => {
      const line = thermocline ?? 9;
      if (surface < 8) return bell(g.depth, 8, 4) * (0.4 + g.hard);
      // Where the bottom meets the cold layer, and hung out over the deep.
      return bell(g.depth, line + 3, 2.5) * (0.5 + 1.4 * g.hard) + (g.depth > line + 5 ? 0.22 : 0);
    },
    depth: (water, { weather: { thermocline, surface } }, r) =>
      surface < 8 ? water - Math.abs(r.normal(0, 1.5)) : Math.min(water - 0.2, (thermocline ?? 8) + 1.5 + r.normal(0, 1.2)),
    takenFor: [
      ['arctic char', 0.82],
      ['whitefish', 0.18],
    ],
  },
  {
    ...PLAIN,
    name: 'whitefish',
    packs: 170,
    count: [2, 15],
    places: 1,
    lasting: 0.6,
    bites: 0.03,
    core: ['weak', 'medium'],
    want: (g, { weather: { thermocline, surface } }) => bell(g.depth, surface < 9 ? 7 : (thermocline ?? 9) + 5, 3.5) * (1.15 - g.hard),
    depth: (water, _, r) => water - Math.abs(r.normal(0, 0.9)),
    takenFor: [
      ['whitefish', 0.75],
      ['arctic char', 0.25],
    ],
  },
  {
    ...PLAIN,
    name: 'perch',
    packs: 230,
    count: [1, 14],
    places: 2,
    lasting: 1,
    bites: 0.14,
    core: ['weak', 'medium'],
    length: [0.26, 0.06],
    want: (g, { weather: { surface } }, blown) =>
      bell(g.depth, surface < 9 ? 9 : surface < 15 ? 3 : 5.5, 1.8) *
      (0.3 + g.weed + 1.2 * Math.max(0, g.rise)) *
      (1 + 0.6 * Math.min(1, blown)),
    takenFor: [
      ['perch', 0.88],
      ['whitefish', 0.12],
    ],
  },
];

/** Shallow, murky, weedy pans that never stratify: bass and sunfish in weed and timber, pike at its edge, bream on mud. */
const WEED_FISH: FishRules = [
  {
    ...BAIT,
    name: 'roach',
    packs: 150,
    places: 4,
    want: (g, _, blown) => bell(g.depth, 2.4, 1.4) * (0.4 + g.weed) * (0.6 + Math.min(1, 1.5 * blown)),
    depth: (water, _, r) => water * r.even(0.3, 0.8),
    takenFor: [['roach', 1]],
  },
  {
    ...PLAIN,
    name: 'largemouth bass',
    packs: 160,
    count: [1, 4],
    places: 0,
    lasting: 0.6,
    food: 0.8,
    want: (g, { weather: { surface }, rising }) => {
      if (rising && surface > 14 && surface < 19) return bell(g.depth, 1.4, 0.6) * (0.3 + g.hard) * (1 + 2 * g.wood);
      const best = surface < 11 ? 4.6 : surface > 20 ? 3.4 : 2.4;
      return bell(g.depth, best, 1.1) * (0.08 + 1.3 * g.wood + 0.8 * g.weed) * (1 + 0.8 * g.channel);
    },
    takenFor: [
      ['largemouth bass', 0.78],
      ['pike', 0.12],
      ['bream', 0.1],
    ],
  },
  {
    ...PLAIN,
    name: 'pike',
    packs: 140,
    count: [1, 1],
    places: 1,
    lasting: 0.8,
    form: ['streaks'],
    want: (g, { weather: { surface } }) => {
      // Its edge, neither the open mud nor the thick of it.
      const edge = 4 * g.weed * (1 - g.weed);
      return bell(g.depth, surface < 12 ? 1.8 : 3, 1) * (0.15 + 1.4 * edge);
    },
    takenFor: [
      ['pike', 0.84],
      ['largemouth bass', 0.16],
    ],
  },
  {
    ...PLAIN,
    name: 'bream',
    packs: 110,
    count: [4, 25],
    places: 2,
    lasting: 1,
    bites: 0.02,
    core: ['weak', 'medium'],
    want: (g, { weather: { surface } }, blown) =>
      bell(g.depth, surface < 9 ? 5.5 : 4, 1.3) * (1.1 - g.hard) * (0.6 + 0.8 * g.channel) * (1 + Math.min(1, blown)),
    takenFor: [
      ['bream', 0.85],
      ['largemouth bass', 0.15],
    ],
  },
];

/** A round lake of roamers: walleye with the wind and the bait, smallmouth bass on hard rises, yellow perch in open water. */
const ROAMING_FISH: FishRules = [
  {
    ...BAIT,
    name: 'smelt',
    packs: 160,
    places: 4,
    want: (g, _, blown) => (g.depth > 4 ? 1 : 0.1) * (0.15 + 2.5 * Math.min(1, 1.3 * blown)),
    depth: (water, _, r) => Math.min(water - 0.6, r.even(2, 6)),
    takenFor: [['smelt', 1]],
  },
  {
    ...PLAIN,
    name: 'walleye',
    packs: 180,
    count: [1, 7],
    places: 0,
    lasting: 0.35,
    food: 2.2,
    largerBelow: 0.04,
    want: (g, { weather: { surface, windSpeed }, sun, floor }, blown) => {
      const best = Math.min(floor - 0.8, surface < 10 ? 7.5 : sun < 10 ? 3.5 : 5.8);
      return bell(g.depth, best, 1.9) * (0.5 + 0.7 * g.hard) * (1 + 1.8 * Math.min(1, blown) * Math.min(1, windSpeed / 5));
    },
    takenFor: [
      ['walleye', 0.8],
      ['yellow perch', 0.12],
      ['smallmouth bass', 0.08],
    ],
  },
  {
    ...PLAIN,
    name: 'smallmouth bass',
    packs: 130,
    count: [1, 3],
    places: 1,
    lasting: 1.1,
    want: (g, { weather: { surface }, rising }) =>
      bell(g.depth, rising && surface > 12 && surface < 18 ? 2.4 : surface < 10 ? 8 : 4.8, 1.5) *
      (0.05 + 1.8 * g.hard ** 3 + 0.8 * Math.max(0, g.rise)),
    takenFor: [
      ['smallmouth bass', 0.83],
      ['walleye', 0.17],
    ],
  },
  {
    ...PLAIN,
    name: 'yellow perch',
    packs: 240,
    count: [2, 18],
    places: 2,
    lasting: 0.7,
    food: 0.6,
    bites: 0.15,
    core: ['weak', 'medium'],
    length: [0.22, 0.04],
    want: (g, { weather: { surface, thermocline } }) =>
      surface > 17 && thermocline != null
        ? 0.25 * (g.depth > thermocline ? 1 : 0.1) + bell(g.depth, 4.5, 1.2) * g.weed
        : bell(g.depth, 4, 2) * (0.4 + g.weed),
    depth: (water, { weather: { thermocline } }, r) => Math.min(water, thermocline ?? water) - Math.abs(r.normal(0, 1)) - 0.2,
    takenFor: [
      ['yellow perch', 0.8],
      ['walleye', 0.2],
    ],
  },
];

/** Waters of other shapes with other fish, kept for judging the forecast: nothing is tuned on them. */
export const FURTHER_WATERS: { seed: number; scenario: Scenario; species: string[] }[] = [
  {
    seed: 311,
    scenario: { shape: 'trench', water: { clearer: 3, layers: true, deeper: 2.5, keepsOxygen: 7, warmer: -3 }, fish: COLD_FISH },
    species: ['arctic char', 'perch'],
  },
  {
    seed: 322,
    scenario: { shape: 'pans', water: { clearer: -0.9, layers: false, deeper: 0, keepsOxygen: 6, warmer: 3 }, fish: WEED_FISH },
    species: ['largemouth bass', 'pike'],
  },
  {
    seed: 333,
    scenario: { shape: 'bowl', water: { clearer: 0.5, layers: true, deeper: 0.8, keepsOxygen: 0.5, warmer: 1 }, fish: ROAMING_FISH },
    species: ['walleye', 'smallmouth bass'],
  },
];

/** A round lake with the demo's own fish: what one water teaches another. */
export const SECOND_WATER: { seed: number; scenario: Scenario } = {
  seed: 9,
  scenario: { shape: 'bowl', water: RESERVOIR, fish: VALLEY_FISH },
};
