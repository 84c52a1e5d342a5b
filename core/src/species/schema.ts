import { array, boolean, mixed, number, object, string } from 'yup';
import { SCHOOL_SETTINGS, type SchoolSettings } from './school-settings';

const celsius = () =>
  number()
    .strict()
    .typeError('must be a number')
    .min(-2, 'is impossible: it must be from -2 to 45')
    .max(45, 'is impossible: it must be from -2 to 45')
    .required('is missing');
const share = () =>
  number().strict().typeError('must be a number').min(0, 'must be from 0 to 1').max(1, 'must be from 0 to 1').required('is missing');

/** Settings of the schools by key, each within its limits. */
const schools = () =>
  mixed<SchoolSettings>().test('settings', (value, { createError }) => {
    if (value === undefined) return true;
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return createError({ message: 'must be settings by name' });
    for (const [key, set] of Object.entries(value)) {
      const known = SCHOOL_SETTINGS.find((s) => s.key === key);
      if (!known) return createError({ message: `does not know the setting ${key}` });
      if (!Number.isFinite(set) || set < known.least || set > known.most)
        return createError({ message: `${key} must be a number from ${known.least} to ${known.most}` });
    }
    return true;
  });

/** An edited species profile, as the HTTP interface and the form take it. Limits out of order are refused with the field's name. */
export const speciesSchema = object({
  name: string().strict().trim('begins or ends with a space').min(1, 'is missing').max(100).required('is missing'),
  scientific: string().strict().nullable().defined(),
  aliases: array().of(string().strict().required()).strict().required(),
  guild: string()
    .oneOf(['warm', 'cool', 'cold', 'marine', 'unknown'], 'must be warm, cool, cold, marine or unknown')
    .required('is missing'),
  preferred: array()
    .of(celsius())
    .strict()
    .length(2, 'needs a lower and an upper temperature')
    .required('is missing')
    .test('order', 'must rise from the lower to the upper temperature', (v) => !v || v[0] < v[1]),
  upperAvoidance: celsius().test(
    'above',
    'must not lie below the temperatures it seeks',
    (v, { parent }) => v === undefined || !Array.isArray(parent.preferred) || parent.preferred.length < 2 || v >= parent.preferred[1],
  ),
  handlingStress: celsius(),
  leastOxygen: number()
    .strict()
    .typeError('must be a number')
    .min(0, 'must be from 0 to 14')
    .max(14, 'must be from 0 to 14')
    .required('is missing'),
  spawning: object({
    from: celsius(),
    to: celsius(),
    direction: string().oneOf(['rising', 'falling'], 'must be rising or falling').required('is missing'),
  })
    .nullable()
    .default(undefined)
    .test('order', 'must rise from its lower to its upper temperature', (v) => !v || v.from < v.to),
  light: string().oneOf(['shy', 'sight', 'indifferent'], 'must be shy, sight or indifferent').required('is missing'),
  place: string().oneOf(['bottom', 'near bottom', 'suspended', 'cover', 'surface'], 'is no place in the column').required('is missing'),
  shoaling: string().oneOf(['alone', 'loose packs', 'schools', 'clouds'], 'is no way of shoaling').required('is missing'),
  forage: array().of(string().strict().required()).strict().required(),
  lengthWeight: object({ a: number().strict().positive().required(), b: number().strict().positive().required() })
    .nullable()
    .default(undefined),
  drawnTo: object({ wood: share(), weed: share(), hard: share() }).required(),
  schools: schools(),
  isForage: boolean().strict().required(),
  source: string().strict().max(1000).required('is missing'),
  uncertain: string().strict().max(1000).defined(),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

const metres = () =>
  number().strict().typeError('must be a number').min(0, 'must be from 0 to 100').max(100, 'must be from 0 to 100').required('is missing');

/** An edited depth rule. */
export const depthRuleSchema = object({ lightBase: metres(), lightFactor: metres(), clearFrom: metres() })
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();
