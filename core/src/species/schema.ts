import { array, boolean, mixed, number, object, string } from 'yup';
import { MISSING, oneOf, only, within, words } from '../schema';
import { STRATEGY_SETTINGS, type StrategySettings } from './strategy-settings';

const celsius = () => within(-2, 45).required(MISSING);
const share = () => within(0, 1).required(MISSING);

/** Settings of the strategies by key, each within its limits. */
const strategies = () =>
  mixed<StrategySettings>().test('settings', (value, { createError }) => {
    if (value === undefined) return true;
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return createError({ message: 'must be settings by name' });
    for (const [key, set] of Object.entries(value)) {
      const known = STRATEGY_SETTINGS.find((s) => s.key === key);
      if (!known) return createError({ message: `does not know the setting ${key}` });
      if (!Number.isFinite(set) || set < known.min || set > known.max)
        return createError({ message: `${key} must be a number from ${known.min} to ${known.max}` });
    }
    return true;
  });

/** An edited species profile, as the HTTP interface and the form take it. Limits out of order are refused with the field's name. */
export const speciesSchema = only({
  name: string().strict().trim('begins or ends with a space').min(1, MISSING).max(100).required(MISSING),
  scientific: string().strict().nullable().defined(),
  aliases: array().of(string().strict().required()).strict().required(),
  guild: oneOf(['warm', 'cool', 'cold', 'marine', 'unknown']).required(MISSING),
  preferred: array()
    .of(celsius())
    .strict()
    .length(2, 'needs a lower and an upper temperature')
    .required(MISSING)
    .test('order', 'must rise from the lower to the upper temperature', (v) => !v || v[0] < v[1]),
  upperAvoidance: celsius().test(
    'above',
    'must not lie below the temperatures it seeks',
    (v, { parent }) => v === undefined || !Array.isArray(parent.preferred) || parent.preferred.length < 2 || v >= parent.preferred[1],
  ),
  handlingStress: celsius(),
  leastOxygen: within(0, 14).required(MISSING),
  spawning: object({
    from: celsius(),
    to: celsius(),
    direction: oneOf(['rising', 'falling']).required(MISSING),
    depth: array()
      .of(within(0, 500).required(MISSING))
      .strict()
      .length(2, 'needs a lesser and a greater depth')
      .test('order', 'must rise from the lesser to the greater depth', (v) => !v || v[0] <= v[1]),
  })
    .nullable()
    .default(undefined)
    .test('order', 'must rise from its lower to its upper temperature', (v) => !v || v.from < v.to),
  light: oneOf(['shy', 'sight', 'indifferent']).required(MISSING),
  place: oneOf(['bottom', 'near bottom', 'suspended', 'cover', 'surface']).required(MISSING),
  shoaling: oneOf(['alone', 'loose packs', 'schools', 'clouds']).required(MISSING),
  forage: array().of(string().strict().required()).strict().required(),
  lengthWeight: object({ a: number().strict().positive().required(), b: number().strict().positive().required() })
    .nullable()
    .default(undefined),
  largest: within(0.01, 10).nullable(),
  drawnTo: object({ wood: share(), weed: share(), hard: share() }).required(),
  strategies: strategies(),
  isForage: boolean().strict().required(),
  source: words(1000).required(MISSING),
  uncertain: words(1000).defined(),
});

const metres = () => within(0, 100).required(MISSING);

/** An edited depth rule. */
export const depthRuleSchema = only({ lightBase: metres(), lightFactor: metres(), clearFrom: metres() });
