import { array, boolean, object, string, tuple } from 'yup';
import { MODES, schemas } from '../logbook';
import { MISSING, name, oneOf, only, wholeWithin, within, words } from '../schema';
import { mappedPlaces, partMappings } from '../tables';

// What the HTTP interface takes beside the records of the logbook: a schema a route.

const flag = () => boolean().strict().typeError('must be true or false');
/** The year 3000. */
const LAST_MOMENT = Date.UTC(3000, 0);
const latitude = within(-90, 90).required(MISSING);
const longitude = within(-180, 180).required(MISSING);

export const signIn = only({ password: words(1000).required(MISSING) });

export const backupSettings = only({
  folder: words(1000).required(MISSING),
  keep: wholeWithin(1, 1000).required(MISSING),
  daily: flag().required(MISSING),
});

export const archive = only({ archived: flag().required(MISSING) });

/** Places to go to. */
export const plan = only({
  places: array(
    only({
      id: schemas.id,
      name: name(120),
      words: words(500).nullable().default(null),
      latitude,
      longitude,
      depth_m: within(0, 2000).nullable().default(null),
    }),
  )
    .min(1, 'names no place')
    .max(200, 'names more than 200 places')
    .required(MISSING),
});

const text = (longest: number) => words(longest).required(MISSING);
const at = () => wholeWithin(0, LAST_MOMENT).required(MISSING);
/** Longitude, then latitude, as in GeoJSON. */
const position = () => tuple([within(-180, 180).required(MISSING), within(-90, 90).required(MISSING)]).required(MISSING);
const way = (longest: number) => array(position()).max(longest, 'has too many points').required(MISSING);

/** The plan of a day: stops in their order with the ways between them, and search passes. Times in ms. */
export const dayPlan = only({
  made: at(),
  species: name(100),
  from: at(),
  to: at(),
  ramp: only({ latitude, longitude }),
  stops: array(
    only({
      id: text(80),
      name: name(120),
      latitude,
      longitude,
      depth_m: within(0, 2000).nullable().default(null),
      arrive: at(),
      leave: at(),
      chance: within(0, 1).required(MISSING),
      brings: within(0, 1e6).required(MISSING),
      pace: within(0.1, 1e4).required(MISSING),
      expected: within(0, 1e6).required(MISSING),
      way: way(2000),
    }),
  )
    .max(60, 'has more than 60 stops')
    .required(MISSING),
  home: only({ arrive: at(), way: way(2000) })
    .nullable()
    .default(null),
  passes: only({
    lines: array(way(4000)).max(1000, 'has more than 1000 passes').required(MISSING),
    view: text(40),
    range_m: within(0, 5000).nullable().default(null),
  })
    .nullable()
    .default(null),
});

/** A named place. */
export const spot = only({ name: name(120), latitude, longitude, notes: words(4000).nullable().default(null) });

export const fit = only({ species: name(100) });

/** As many cells as a large water has. */
const MOST_CELLS = 200_000;
const column = () => wholeWithin(-1e9, 1e9).required(MISSING);
const chance = () => within(0, 1).required(MISSING);
const cells = 'are too many cells';

/** A forecast as it was shown on a trip, before anybody knew. */
export const outlook = only({
  species: name(100),
  at: wholeWithin(0, LAST_MOMENT).required(MISSING),
  columns: array(column()).max(MOST_CELLS, cells).required(MISSING),
  rows: array(column()).max(MOST_CELLS, cells).required(MISSING),
  chances: array(chance()).max(MOST_CELLS, cells).required(MISSING),
  places: array(
    only({
      name: words(120).required(MISSING),
      chance: chance(),
      cells: array(tuple([column(), column()]))
        .max(400, cells)
        .required(MISSING),
    }),
  )
    .max(50, 'are more than 50')
    .required(MISSING),
}).test(
  'as-many',
  'columns, rows and chances must be as many',
  (v) => v.columns?.length === v.rows?.length && v.rows?.length === v.chances?.length,
);

/** Files that were sent, and how they are to be read. */
export const importing = only({
  upload: schemas.id,
  water: name(120),
  create: flag().default(false),
  update: flag().default(false),
  mapping: only({ parts: partMappings.required(MISSING), places: mappedPlaces })
    .optional()
    .default(undefined),
  // Whose marks they are, where they are not one's own.
  from: only({ name: name(120), within_m: within(0, 100_000).nullable().default(null) })
    .optional()
    .default(undefined),
});

export const outline = only({ outline: object().required(MISSING) });

const moment = string()
  .strict()
  .typeError('must be text')
  .required(MISSING)
  .test('time', 'is no time with its zone, as 2026-05-02T06:00:00Z', (text) => /^\d{4}-\d\d-\d\dT[\d:.]+Z$/.test(text ?? '') && !Number.isNaN(Date.parse(text!))); // prettier-ignore

/** The mode of a stretch of a track, put right afterwards. */
export const stretch = only({ from: moment, to: moment, mode: oneOf(MODES).required(MISSING) });

/** So many records are changed at once at the most. */
const MOST_EDITS = 5000;
/** What becomes of records of a trip, all of it or nothing; a row is checked by the schema of its record. */
export const edits = only({
  edits: array(
    only({
      record: oneOf(['contacts', 'stops', 'responses', 'conditions', 'photos'] as const).required(MISSING),
      id: schemas.id,
      done: oneOf(['put', 'deleted', 'restored'] as const).required(MISSING),
      /** What it becomes; what it was, where it is brought back: the device shows that meanwhile. */
      row: object().nullable().default(null),
    }),
  )
    .min(1, 'changes nothing')
    .max(MOST_EDITS, `changes more than ${MOST_EDITS} records`)
    .required(MISSING),
});

/** The trip that becomes part of another. */
export const merge = only({ other: schemas.id });
/** The change that is undone. */
export const unmerge = only({ change: schemas.id });
/** From when on a trip is another, and the id that it gets. */
export const split = only({ at: moment, id: schemas.id });

/** The boat's network. */
export const feedSettings = only({
  host: string()
    .strict()
    .typeError('must be text')
    .trim()
    .matches(/^[A-Za-z0-9.:_-]{1,253}$/, 'is no host name or address')
    .required(MISSING),
  port: wholeWithin(1, 65535).required(MISSING),
  echoPort: wholeWithin(1, 65535).nullable(),
});

/** What goes along with a simulated boat and may be taken for fish. */
export const COMPANIONS = ['lure', 'weight', 'wash'] as const;

/** Something put into the water of a simulation. */
export const plantedTarget = only({
  kind: oneOf(['fish', 'bait', 'timber']).required(MISSING),
  latitude,
  longitude,
  /** Of its middle, m below the surface. */
  depth: within(0, 500).required(MISSING),
  /** Of a fish, m. */
  length: within(0.02, 5),
  radius: within(0, 50),
  height: within(0, 50),
});

export const simulation = only({
  latitude,
  longitude,
  course: within(0, 360).required(MISSING),
  speed: within(0, 30).required(MISSING),
  /** Lines of an S-pass, m; straight on without. */
  length: within(1, 100_000).nullable(),
  spacing: within(1, 10_000).nullable(),
  companions: array(oneOf(COMPANIONS).required(MISSING)),
  thermocline: only({ top: within(0, 500).required(MISSING), bottom: within(0, 500).required(MISSING) }).nullable(),
  /** Things in the water, in place of those made up for practice. */
  targets: array(plantedTarget).nullable(),
});

/** The demo waters. */
export const DEMOS = ['lake', 'sound', 'river'] as const;
export type DemoName = (typeof DEMOS)[number];
export const demo = only({ which: oneOf(DEMOS).nullable() });

/** A body in which nothing stands. */
export const nothing = only({});
/** What a device takes out of the trash, as it shows it meanwhile; the server has it and does not read it. */
export const asItWas = object();
