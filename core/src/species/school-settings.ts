/** Where practitioners disagree: the schools, each with its own rule for ranking water. */
export const SCHOOLS = ['depth', 'comfort', 'bottom', 'structure', 'cover', 'bait', 'quiet', 'known'] as const;
export type School = (typeof SCHOOLS)[number];

/** A number in a school's rule that an angler may set otherwise. */
export interface SchoolSetting {
  /** The school and what it is: "cover.reach". */
  key: string;
  school: School;
  label: string;
  unit: string;
  usual: number;
  least: number;
  most: number;
}

const weight = (school: School, usual: number): SchoolSetting => ({
  key: `${school}.weight`,
  school,
  label: 'counts, before any log',
  unit: '0–2',
  usual,
  least: 0,
  most: 2,
});

const rule = (key: `${School}.${string}`, label: string, unit: string, usual: number, least: number, most: number): SchoolSetting => ({
  key,
  school: key.split('.')[0] as School,
  label,
  unit,
  usual,
  least,
  most,
});

/**
 * What can be set of the schools, with the values used where nobody set any: our own reading of what practitioners say.
 * A weight multiplies the school's log-odds; an unusual value holds for one species on one water.
 */
export const SCHOOL_SETTINGS: SchoolSetting[] = [
  weight('depth', 0.6),
  rule('depth.tolerance', 'how far off the holding depth still counts', '× usual', 1, 0.3, 3),
  weight('comfort', 0.5),
  rule('comfort.edge', 'reach of the layer’s edge, up and down', 'm', 2, 0.5, 10),
  weight('bottom', 0.4),
  rule('bottom.edge', 'reach of a hard-to-soft edge', 'm', 40, 5, 200),
  weight('structure', 0.4),
  rule('structure.slope', 'log-odds of a slope of one in ten', '', 0.5, -2, 2),
  weight('cover', 0.4),
  rule('cover.reach', 'reach of brush, timber and weed', 'm', 25, 5, 150),
  weight('bait', 0.3),
  rule('bait.wind', 'log-odds of full wind on the shore', '', 1.2, -3, 3),
  weight('quiet', 0.1),
  rule('quiet.from', 'quiet begins so far off the bank', 'm', 60, 0, 500),
  weight('known', 0.1),
  rule('known.prominence', 'log-odds of standing out on the chart', 'per m', 0.5, -2, 2),
];

/** Settings that differ from the usual, by key. */
export type SchoolSettings = Record<string, number>;

const USUAL = new Map(SCHOOL_SETTINGS.map((s) => [s.key, s.usual]));

/** The value of a setting: as set for the species, the usual one otherwise. */
export const schoolSetting = (of: { schools?: SchoolSettings }, key: string): number => of.schools?.[key] ?? USUAL.get(key)!;
