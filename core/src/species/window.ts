import { temperatureAt, type WaterColumn } from '../lake';
import { statement, type Statement } from '../statements';
import { DEFAULT_RULE } from './depth-rule';
import { spawningDepth, type SpeciesProfile } from './profile';
import { HALF, lightFloor, suitability, suitabilityStep, type Suitability, type WindowInputs } from './suitability';

export type WindowCode =
  | 'window.free'
  | 'window.light.shy'
  | 'window.bottom'
  | 'window.none'
  | 'window.nothing'
  | 'window.warm'
  | 'window.cold'
  | 'window.cold.above'
  | 'window.oxygen'
  | 'window.oxygen.above'
  | 'window.light'
  | 'window.spawning'
  | 'window.thermocline';

/**
 * Depths, m, that suit a species, with the reason of each edge. `empty` when nothing does, where that was measured over the whole
 * depth. `best` is how well the best depth suits, 0–1: a squeeze where it is low.
 */
export interface DepthWindow {
  top: number;
  bottom: number;
  topReason: Statement<WindowCode>;
  bottomReason: Statement<WindowCode>;
  best: number;
  empty: boolean;
}

/** Nothing suits where the best depth does less than this. */
const NOTHING = 0.1;
/** A layer that ends so near above the bottom reaches it, m. */
const AT_THE_BOTTOM = 0.06;

/** The depths that suit a species: those at least half as well as the best one, about it. */
export function depthWindow(s: SpeciesProfile, inputs: WindowInputs): DepthWindow {
  const { column, maxDepth } = inputs;
  const suits = suitability(s, inputs);
  const step = suitabilityStep(maxDepth);
  const best = Math.max(...suits.map((v) => v.whole));
  const measured = Math.min(column.measuredTo ?? 0, column.oxygenMeasuredTo ?? (column.modelled ? 0 : Infinity)) >= 0.9 * maxDepth;
  if (best < NOTHING && measured)
    return {
      top: maxDepth,
      bottom: maxDepth,
      topReason: statement('window.none', { temperature: s.upperAvoidance, oxygen: s.leastOxygen }),
      bottomReason: statement('window.nothing'),
      best,
      empty: true,
    };
  const cut = HALF * best;
  const [first, last] = widestRun(suits, cut);
  const depthOf = (inside: number, outside: number): number => {
    const [a, b] = [suits[inside].whole, suits[outside].whole];
    const share = a === b ? 0 : (a - cut) / (a - b);
    return Math.min(maxDepth, (inside + Math.min(1, Math.max(0, share)) * (outside - inside)) * step);
  };
  const top = first === 0 ? 0 : depthOf(first, first - 1);
  const end = last === suits.length - 1 ? maxDepth : depthOf(last, last + 1);
  // The depth rule of a water is its owner's: it ends a window where it says.
  const floor = inputs.spawning ? null : lightFloor(s, inputs);
  const ruled = floor !== null && floor < end && floor > top + 0.1;
  const bottom = ruled ? floor : end > maxDepth - AT_THE_BOTTOM ? maxDepth : end;
  const inside = bestOf(suits, first, last);
  return {
    top,
    bottom,
    topReason: first === 0 ? statement('window.free') : reason(s, inputs, suits[inside], suits[first - 1], { depth: top, upper: true }),
    bottomReason: ruled
      ? lightEnds(floor, inputs)
      : bottom === maxDepth
        ? statement('window.bottom')
        : reason(s, inputs, suits[inside], suits[last + 1], { depth: bottom, upper: false }),
    best,
    empty: bottom - top < 0.05,
  };
}

/** A squeeze: no depth suits well, heat ends it above and want of oxygen below. Cold water that suits less all winter is none. */
export const isSqueezed = ({ empty, best, topReason, bottomReason }: DepthWindow): boolean =>
  !empty && best < HALF && topReason.code === 'window.warm' && ['window.oxygen', 'window.thermocline'].includes(bottomReason.code);

/** First and last step of the run at or above the cut that has most in it. */
function widestRun(suits: Suitability[], cut: number): [number, number] {
  let found: [number, number] = [0, suits.length - 1];
  let most = -1;
  for (let k = 0; k < suits.length; k++) {
    if (suits[k].whole < cut) continue;
    const from = k;
    let sum = 0;
    for (; k < suits.length && suits[k].whole >= cut; k++) sum += suits[k].whole;
    if (sum > most) [most, found] = [sum, [from, k - 1]];
  }
  return found;
}

function bestOf(suits: Suitability[], first: number, last: number): number {
  let best = first;
  for (let k = first; k <= last; k++) if (suits[k].whole > suits[best].whole) best = k;
  return best;
}

const lightEnds = (depth: number, { rule = DEFAULT_RULE }: WindowInputs): Statement<WindowCode> =>
  statement('window.light', { depth, base: rule.lightBase, factor: rule.lightFactor });

/** Why a species is not beyond an edge: what falls off most against the best depth. */
function reason(
  s: SpeciesProfile,
  inputs: WindowInputs,
  best: Suitability,
  beyond: Suitability,
  { depth, upper }: { depth: number; upper: boolean },
): Statement<WindowCode> {
  const { column, secchi } = inputs;
  const factors = (['layer', 'temperature', 'oxygen', 'light', 'spawning'] as const).map((key) => ({ key, left: beyond[key] / best[key] }));
  switch (factors.reduce((a, b) => (b.left < a.left ? b : a)).key) {
    case 'layer':
      return statement('window.thermocline', { depth: column.thermocline!.depth });
    case 'oxygen':
      return statement(upper ? 'window.oxygen.above' : 'window.oxygen', { depth, oxygen: s.leastOxygen });
    case 'spawning': {
      const [from, to] = spawningDepth(s)!;
      return statement('window.spawning', { from, to });
    }
    case 'light': {
      const floor = lightFloor(s, inputs);
      return floor !== null && depth > 0.7 * floor
        ? lightEnds(floor, inputs)
        : statement('window.light.shy', { clarity: secchi, top: depth });
    }
    default:
      return temperatureAt(column.samples, depth) > s.preferred[1]
        ? statement('window.warm', { depth, temperature: s.upperAvoidance })
        : statement(upper ? 'window.cold.above' : 'window.cold', { depth, temperature: s.preferred[0] });
  }
}

/**
 * The depth a species is first looked for, before any log: where it spawns while it does, else light-shy fish low in their window,
 * sight-feeders in its upper half, all of them deeper in cold water.
 */
export function firstGuessDepth(s: SpeciesProfile, window: DepthWindow, column: WaterColumn, spawning = false): number {
  if (spawning) return (window.top + window.bottom) / 2;
  const surface = temperatureAt(column.samples, 0);
  const share = s.light === 'shy' ? 0.7 : s.place === 'cover' ? 0.35 : 0.5;
  const cold = Math.min(1, Math.max(0, (s.preferred[0] - surface) / 10));
  // Not deeper than 12 m at first, unless their own water only begins there: then no more than 20 m into it.
  const reach = Math.min(window.bottom, window.top > 3 && s.guild === 'cold' ? window.top + 20 : Math.max(12, window.top));
  return window.top + (reach - window.top) * Math.min(0.95, share + 0.25 * cold);
}
