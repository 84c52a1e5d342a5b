/** Where practitioners disagree: the strategies, each with its own rule for ranking water. */
export const STRATEGIES = ['depth', 'comfort', 'bottom', 'structure', 'cover', 'bait', 'current', 'quiet', 'known'] as const;
export type Strategy = (typeof STRATEGIES)[number];

/** A number in a strategy's rule that an angler may set otherwise. */
export interface StrategySetting {
  /** The strategy and what it is: "cover.reach". */
  key: string;
  strategy: Strategy;
  unit: string;
  usual: number;
  min: number;
  max: number;
}

const weight = (strategy: Strategy, usual: number): StrategySetting => ({
  key: `${strategy}.weight`,
  strategy,
  unit: '0–2',
  usual,
  min: 0,
  max: 2,
});

const rule = (key: `${Strategy}.${string}`, unit: string, usual: number, min: number, max: number): StrategySetting => ({
  key,
  strategy: key.split('.')[0] as Strategy,
  unit,
  usual,
  min,
  max,
});

/**
 * What can be set of the strategies, with the values used where nobody set any: our own reading of what practitioners say.
 * A weight multiplies the strategy's log-odds; an unusual value holds for one species on one water.
 */
export const STRATEGY_SETTINGS: StrategySetting[] = [
  weight('depth', 0.6),
  rule('depth.tolerance', '× usual', 1, 0.3, 3),
  weight('comfort', 0.5),
  rule('comfort.edge', 'm', 2, 0.5, 10),
  weight('bottom', 0.4),
  rule('bottom.edge', 'm', 40, 5, 200),
  weight('structure', 0.4),
  rule('structure.slope', '', 0.5, -2, 2),
  weight('cover', 0.4),
  rule('cover.reach', 'm', 25, 5, 150),
  weight('bait', 0.3),
  rule('bait.wind', '', 1.2, -3, 3),
  weight('current', 0.4),
  rule('current.side', '', 1, -2, 2),
  weight('quiet', 0.1),
  rule('quiet.from', 'm', 60, 0, 500),
  weight('known', 0.1),
  rule('known.prominence', '1/m', 0.5, -2, 2),
];

/** Settings that differ from the usual, by key. */
export type StrategySettings = Record<string, number>;

const USUAL = new Map(STRATEGY_SETTINGS.map((s) => [s.key, s.usual]));

/** The value of a setting: as set for the species, the usual one otherwise. */
export const strategySetting = (of: { strategies?: StrategySettings }, key: string): number => of.strategies?.[key] ?? USUAL.get(key)!;
