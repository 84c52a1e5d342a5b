import type { Day } from './conditions';
import type { Factor } from './reasons';
import { strengthOf } from './stream-sides';

/** From high water to high water. */
const TIDE_HOURS = 12.42;

/**
 * Every term of the linear predictor, declared once, in the order of its columns. The design matrix, the search for the
 * precisions, what a fit takes over from another water, the day's forecast, the sum over a water and the reasons are all
 * made from this list.
 */
export interface TermDeclaration<Name extends string = string> {
  name: Name;
  /**
   * What it hangs on: a cell's chart (the same on every day), the depth of the bottom on a day, a cell on a day, how a
   * look was made, or the trip.
   */
  varies: 'cell' | 'depth' | 'day' | 'look' | 'trip';
  penalty: 'smooth' | 'ridge';
  /** Precision expected before any log, about the strategies or what was borrowed. Judgements, held against made-up waters. */
  prior: number;
  /** Where the search for its precision begins, if not at the prior: where logs have mostly led it. */
  startsAt?: number;
  /** Bounds of its precision, if not the usual ones. */
  loosest?: number;
  tightest?: number;
  /** How another water's coefficients carry over: column by column, as a function of depth, or not at all. */
  carries: 'columns' | 'depth' | 'no';
  /** The reason that its share in a place counts to; none for what tells no cell from another. */
  explains: Factor | null;
}

/** A term of depth whose weight is one number of the day: what moves fish up or down on such days. */
interface DepthByDay extends TermDeclaration {
  /** Only where the water runs or has a tide. */
  running?: true;
  varies: 'depth';
  carries: 'depth';
  /** The number of the day, of the order of one; 0 where the usual depth holds. */
  of: (day: Day) => number;
}

/** 1 in the dark and at dawn and dusk, 0 under a high sun. */
export const lowLight = (day: Day): number => 1 / (1 + Math.exp((day.sunHeight - 12) / 4));

/**
 * Depth by a number of the day. A further one is a further entry here and nowhere else.
 */
export const DEPTH_BY_DAY: DepthByDay[] = [
  {
    name: 'depth by trend',
    // −1 while the water cools, 1 while it warms.
    of: (day) => Math.tanh(day.conditions.trend / 0.08),
    varies: 'depth',
    penalty: 'ridge',
    prior: 1.5,
    carries: 'depth',
    explains: 'depth',
  },
  {
    name: 'depth by sun',
    of: lowLight,
    varies: 'depth',
    penalty: 'ridge',
    prior: 2,
    carries: 'depth',
    explains: 'depth',
  },
  // Of the tide: about high or low water, before or after it, and running or slack.
  ...(
    [
      ['depth by height of tide', ({ tide }) => (tide ? Math.cos((2 * Math.PI * tide.fromHigh) / TIDE_HOURS) : 0)],
      ['depth by turn of tide', ({ tide }) => (tide ? Math.sin((2 * Math.PI * tide.fromHigh) / TIDE_HOURS) : 0)],
      ['depth by stream', ({ stream }) => (stream ? strengthOf(stream.rate) : 0)],
    ] as [string, DepthByDay['of']][]
  ).map(([name, of]): DepthByDay => ({
    name,
    of,
    running: true,
    varies: 'depth',
    penalty: 'ridge',
    prior: 2,
    carries: 'depth',
    explains: 'current',
  })),
];

const term = <Name extends string>(
  name: Name,
  varies: TermDeclaration['varies'],
  penalty: TermDeclaration['penalty'],
  prior: number,
  carries: TermDeclaration['carries'],
  explains: Factor | null,
  more: Pick<TermDeclaration, 'startsAt' | 'loosest' | 'tightest'> = {},
): TermDeclaration<Name> => ({ name, varies, penalty, prior, carries, explains, ...more });

/** Terms before those of depth by a number of the day, and after them; the last of these lasts at a cell. */
const FIRST = [
  // Each strategy counts to its own factor: see the reasons.
  term('strategies', 'day', 'ridge', 5, 'columns', null),
  term('depth by temperature', 'depth', 'ridge', 1, 'depth', 'depth', { startsAt: 0.7 }),
  term('season', 'depth', 'ridge', 1, 'columns', null),
] as const;
const OF_DAY = [
  term('thermocline', 'depth', 'smooth', 7.5, 'columns', 'thermocline'),
  term('light', 'depth', 'smooth', 7.5, 'columns', 'depth'),
  term('bottom by temperature', 'day', 'ridge', 1.5, 'columns', 'bottom'),
  term('wind', 'day', 'ridge', 3, 'columns', 'wind'),
  term('stream', 'day', 'ridge', 2, 'columns', 'current'),
  term('detection', 'look', 'ridge', 3, 'no', null),
] as const;
const OF_CELL = [
  term('depth', 'cell', 'smooth', 20, 'depth', 'depth', { startsAt: 2 }),
  term('hardness', 'cell', 'smooth', 7.5, 'columns', 'bottom'),
  term('position near', 'cell', 'smooth', 7.5, 'columns', 'shape'),
  term('position wide', 'cell', 'smooth', 7.5, 'columns', 'shape'),
  term('slope', 'cell', 'smooth', 7.5, 'columns', 'shape'),
  term('cover', 'cell', 'ridge', 1.5, 'columns', 'cover'),
  term('edge', 'cell', 'ridge', 2, 'columns', 'bottom'),
  // Places do last: the term always keeps some freedom.
  term('place', 'cell', 'ridge', 1, 'no', 'log', { startsAt: 2, loosest: 0.25, tightest: 6 }),
] as const;
const OF_TRIP = [term('trip', 'trip', 'ridge', 4, 'no', null, { startsAt: 6, loosest: 0.2 })] as const;

export type TermName = (typeof FIRST | typeof OF_DAY | typeof OF_CELL | typeof OF_TRIP)[number]['name'];

/** All terms in the order of their columns; what lasts at a cell comes after what changes by the day. */
export const termsInOrder = (): TermDeclaration[] => [...FIRST, ...DEPTH_BY_DAY, ...OF_DAY, ...OF_CELL, ...OF_TRIP];

/** A term by its name. @throws RangeError where none is called so: a fit of another version */
export function declared(name: string): TermDeclaration {
  const found = termsInOrder().find((t) => t.name === name);
  if (!found) throw new RangeError(`no term is called ${name}`);
  return found;
}
