import { statement } from '../../src/statements';
import { makeClusters, seeded, type Clusters } from '@restless-shoal/core/numbers';
import { type Condition } from '@restless-shoal/core/patterns';

/** A made-up log, already laid out: looks in cells of a water with a depth, a hardness and a side that are smooth in space. */
export interface MadeUpLooks {
  used: Float64Array;
  effort: Float64Array;
  clusters: Clusters;
  /** 0–5, shallow to deep. */
  depth: Int8Array;
  /** Further smooth traits of the cell, 0 or 1 each, that the fish care nothing about unless told. */
  traits: Uint8Array[];
  /** Targets to expect from the preference alone, without trips' and places' own ups and downs. */
  wanted: Float64Array;
}

export interface Making {
  seed: number;
  trips?: number;
  /** Log preference of the fish by depth class. */
  preference?: number[];
  /** Log preference for cells with all of the traits listed. */
  together?: { traits: number[]; log: number };
  /** How much more often the boat looks at a depth class, as a log weight; alternating with the season where asked. */
  boat?: number[];
  /** Targets a hectare. */
  rate?: number;
  /** Spread of trips, of lasting places, and of places on one trip, on the log scale. */
  tripSpread?: number;
  placeSpread?: number;
  patchSpread?: number;
  traits?: number;
}

const [WIDE, HIGH] = [64, 48];
const BLOCK = 12;

function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

/** A smooth field over the water, mean 0, spread 1: waves of random direction. @param scale length of a wave in cells */
function field(random: () => number, scale: number): (c: number, r: number) => number {
  const waves = Array.from({ length: 24 }, () => {
    const [angle, phase, length] = [2 * Math.PI * random(), 2 * Math.PI * random(), scale * (0.6 + 0.8 * random())];
    return [(2 * Math.PI * Math.cos(angle)) / length, (2 * Math.PI * Math.sin(angle)) / length, phase];
  });
  return (c, r) => waves.reduce((s, [u, v, p]) => s + Math.cos(u * c + v * r + p), 0) / Math.sqrt(waves.length / 2);
}

function poisson(random: () => number, mean: number): number {
  let [n, p] = [0, random()];
  const least = Math.exp(-Math.min(mean, 50));
  while (p > least) {
    n++;
    p *= random();
  }
  return n;
}

export function makeUpLooks(making: Making): MadeUpLooks {
  const { trips = 40, preference = [0, 0, 0, 0, 0, 0], boat = [0, 0, 0, 0, 0, 0], rate = 1 } = making;
  const { tripSpread = 0.5, placeSpread = 0.5, patchSpread = 0.6, traits = 0 } = making;
  const random = seeded(making.seed * 7919 + 13);
  const depthField = field(random, 40);
  const place = field(random, 16);
  const traitFields = Array.from({ length: traits }, () => field(random, 10 + 20 * random()));
  const classAt = (c: number, r: number): number => Math.min(5, Math.max(0, Math.floor(3 + 1.6 * depthField(c, r))));
  const rows: { trip: number; place: number; used: number; effort: number; depth: number; traits: number[]; wanted: number }[] = [];
  for (let t = 0; t < trips; t++) {
    const good = Math.exp(tripSpread * normal(random) - tripSpread ** 2 / 2);
    const patch = field(random, 12);
    for (let search = 0; search < 7; search++) {
      let [c0, r0] = [0, 0];
      for (let k = 0; k < 60; k++) {
        [c0, r0] = [Math.floor(random() * WIDE), Math.floor(random() * HIGH)];
        if (random() < Math.exp(boat[classAt(c0, r0)] - Math.max(...boat))) break;
      }
      for (let s = 0; s < 14; s++) {
        const [c, r] = [Math.min(WIDE - 1, c0 + (s % 5)), Math.min(HIGH - 1, r0 + Math.floor(s / 5))];
        const depth = classAt(c, r);
        const here = traitFields.map((f) => (f(c, r) > 0.6 ? 1 : 0));
        const effort = 0.02 + 0.04 * random();
        const both = making.together?.traits.every((k) => here[k]) ? making.together.log : 0;
        const wanted = rate * effort * Math.exp(preference[depth] + both);
        const luck = good * Math.exp(placeSpread * place(c, r) + patchSpread * patch(c, r) - (placeSpread ** 2 + patchSpread ** 2) / 2);
        rows.push({
          trip: t,
          place: Math.floor(r / BLOCK) * 100 + Math.floor(c / BLOCK),
          used: poisson(random, wanted * luck),
          effort,
          depth,
          traits: here,
          wanted,
        });
      }
    }
  }
  const names = [...new Set(rows.map((r) => r.place))];
  return {
    used: Float64Array.from(rows, (r) => r.used),
    effort: Float64Array.from(rows, (r) => r.effort),
    clusters: makeClusters(
      Int32Array.from(rows, (r) => r.trip),
      trips,
      Int32Array.from(rows, (r) => names.indexOf(r.place)),
      names.length,
    ),
    depth: Int8Array.from(rows, (r) => r.depth),
    traits: Array.from({ length: traits }, (_, k) => Uint8Array.from(rows, (r) => r.traits[k])),
    wanted: Float64Array.from(rows, (r) => r.wanted),
  };
}

/** Conditions for a search: each trait, and three bands of depth. */
export const conditionsOfMade = ({ traits, depth }: MadeUpLooks): Condition[] => [
  ...traits.map((holds, k) => ({ key: `${k}`, says: statement('condition.hump'), covariate: `${k}`, holds })),
  ...[0, 1, 2].map((d) => ({
    key: `d${d}`,
    says: statement('condition.depth', { from: 2 * d, to: 2 * d + 2 }),
    covariate: 'depth',
    holds: Uint8Array.from(depth, (v) => Number(v >> 1 === d)),
  })),
];
