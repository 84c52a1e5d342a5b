import { bell, overBottom, type FishRules } from './fish-rules';

const bait = { bait: true, count: [80, 600] as [number, number], food: 0, bites: 0, length: [0.1, 0.02] as [number, number] };
const baitLook = { form: ['ball', 'cloud'], core: ['weak'], largerBelow: 0 };

/** The fish of the demo's reservoir. */
export const VALLEY_FISH: FishRules = [
  {
    ...bait,
    ...baitLook,
    name: 'vendace',
    packs: 90,
    places: 4,
    want: (g, { weather }, blown) => (g.depth > (weather.thermocline ?? 7) ? 1 : 0.03) * (0.6 + Math.min(1, blown)),
    depth: (water, { weather }, random) => Math.min(water - 0.8, (weather.thermocline ?? 7) + random.normal(-0.3, 0.8)),
    takenFor: [['vendace', 1]],
  },
  {
    ...bait,
    ...baitLook,
    name: 'smelt',
    packs: 100,
    places: 5,
    want: (g, _, blown) => (g.depth > 5 ? 1 : 0.05) * (0.4 + 1.8 * Math.min(1, blown)) * (0.5 + g.channel),
    depth: (water, _, random) => Math.min(water - 0.8, random.even(2, 5)),
    takenFor: [['smelt', 1]],
  },
  {
    ...bait,
    ...baitLook,
    name: 'roach',
    packs: 80,
    places: 6,
    want: (g, { weather }) => bell(g.depth, weather.surface < 9 ? 7 : 2.6, 1.6) * (0.2 + 1.2 * g.weed + 0.5 * g.wood),
    depth: (water, _, random) => water * random.even(0.35, 0.8),
    takenFor: [['roach', 1]],
  },
  {
    name: 'zander',
    bait: false,
    packs: 170,
    count: [1, 6],
    places: 0,
    want: (g, { weather: { surface, thermocline }, sun, rising, floor }, blown) => {
      if (rising && surface > 9.5 && surface < 15) return bell(g.depth, 3.2, 1.1) * (0.1 + 2 * g.hard ** 2);
      const best = surface < 9.5 ? 10 : thermocline != null ? Math.min(floor - 0.9, 7.2) - (sun < 8 ? 1.4 : 0) : 9;
      const edge = 0.25 + 1.6 * g.hard * g.hard + 0.9 * Math.max(0, g.rise) * 0.6 + 0.7 * g.channel * (1 - g.channel) * 4 * 0.5;
      return bell(g.depth, best, 1.3 + 0.06 * best) * edge * (1 + 1.7 * g.wood) * (1 + 0.8 * Math.min(1, blown));
    },
    depth: overBottom(0.7),
    food: 1.2,
    bites: 0.09,
    length: [0.52, 0.12],
    form: ['arches', 'arches', 'specks'],
    core: ['medium', 'strong'],
    takenFor: [
      ['zander', 0.8],
      ['perch', 0.1],
      ['bream', 0.1],
    ],
    largerBelow: 0.05,
  },
  {
    name: 'perch',
    bait: false,
    packs: 210,
    count: [1, 14],
    places: 1,
    want: (g, { weather: { surface, thermocline } }, blown) => {
      const best = surface < 8 ? 8.5 : surface < 15 ? 3.2 : thermocline != null ? 4.6 : 6.5;
      return bell(g.depth, best, 1.5) * (0.3 + 0.8 * g.weed + 0.9 * g.wood + 0.7 * Math.max(0, g.rise)) * (1 + 0.5 * Math.min(1, blown));
    },
    depth: overBottom(1.1),
    food: 1.2,
    bites: 0.14,
    length: [0.27, 0.06],
    form: ['arches', 'arches', 'specks'],
    core: ['weak', 'medium'],
    takenFor: [
      ['perch', 0.78],
      ['zander', 0.14],
      ['roach', 0.08],
    ],
    largerBelow: 0,
  },
  {
    name: 'pike',
    bait: false,
    packs: 150,
    count: [1, 1],
    places: 2,
    want: (g, { weather: { surface } }) =>
      bell(g.depth, surface < 12 ? 2.2 : surface > 20 ? 5.2 : 3.4, 1.2) * (0.12 + 1.6 * g.weed + 0.7 * g.wood),
    depth: overBottom(0.9),
    food: 0,
    bites: 0.07,
    length: [0.66, 0.14],
    form: ['streaks'],
    core: ['medium', 'strong'],
    takenFor: [
      ['pike', 0.86],
      ['zander', 0.14],
    ],
    largerBelow: 0,
  },
  {
    name: 'bream',
    bait: false,
    packs: 60,
    count: [4, 25],
    places: 3,
    want: (g, { weather: { surface } }) => bell(g.depth, surface < 9 ? 9 : 5.5, 1.8) * (1.1 - g.hard),
    depth: overBottom(0.9),
    food: 0,
    bites: 0.015,
    length: [0.4, 0.06],
    form: ['arches', 'arches', 'specks'],
    core: ['weak', 'medium'],
    takenFor: [
      ['bream', 0.72],
      ['zander', 0.22],
      ['perch', 0.06],
    ],
    largerBelow: 0,
  },
];
