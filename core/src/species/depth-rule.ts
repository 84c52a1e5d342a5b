import { sortOf } from '../lake';

/** The depth rule of a water; its numbers can be edited. */
export interface DepthRule {
  /** The light limit is `lightBase` + `lightFactor` × Secchi, m. */
  lightBase: number;
  lightFactor: number;
  /** Mixed water clearer than this has no limit, m. */
  clearFrom: number;
}

export const DEFAULT_RULE: DepthRule = { lightBase: 2, lightFactor: 4, clearFrom: 3 };

/** Water that runs is mixed, and however dim, its fish are not held up by the light of a lake's rule. */
const RUNNING_RULE: DepthRule = { ...DEFAULT_RULE, clearFrom: 0 };

/** Reads a water's rules as stored; what is missing or no sensible number is the default of its kind. */
export function readDepthRule(rules: unknown, kind: string | null = null): DepthRule {
  const usual = sortOf(kind, false) === 'lake' ? DEFAULT_RULE : RUNNING_RULE;
  const given = (rules ?? {}) as Partial<Record<keyof DepthRule, unknown>>;
  const number = (key: keyof DepthRule): number => {
    const v = given[key];
    return typeof v === 'number' && v >= 0 && v <= 100 ? v : usual[key];
  };
  return { lightBase: number('lightBase'), lightFactor: number('lightFactor'), clearFrom: number('clearFrom') };
}

/** Depth of the light limit for sight-feeding warm- and cool-water fish, m. */
export const lightLimit = (secchi: number, rule: DepthRule = DEFAULT_RULE): number => rule.lightBase + rule.lightFactor * secchi;
