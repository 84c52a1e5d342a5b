import { choice, needed, number, text, time, type Fields, type RowOf } from './fields';

const latitude = number('latitude, degrees', { min: -90, max: 90 });
const longitude = number('longitude, degrees', { min: -180, max: 180 });
const depth = number('metres below the surface', { min: 0, max: 12000 });
const degrees = number('degrees', { min: 0, max: 360 });
const temperature = number('°C', { min: -2, max: 45 });
const share = number('share, 0–1', { min: 0, max: 1 });
const range = number('metres', { min: 0, max: 5000 });
const speed = number('m/s', { min: 0, max: 100 });
const key = text('your own key', 200);
const notes = text('free words', 4000);

export const VIEWS = ['sounder', 'down-beam', 'side-scan', 'forward-facing', 'eye', 'camera', 'line'] as const;
export const CONTACT_KINDS = ['fish', 'bait', 'cover', 'bottom', 'thermocline', 'weed', 'hazard'] as const;
export const COVERS = ['brush', 'timber', 'rock', 'dock', 'weed', 'wreck', 'reef', 'none'] as const;
export const MODES = ['transit', 'scan', 'fish', 'troll', 'sweep'] as const;
export const OUTCOMES = ['nothing', 'seen', 'follows', 'bites', 'fish', 'unfishable'] as const;
export const FATES = ['released', 'kept'] as const;
/** What a picture is of. */
export const SHOWN = ['fish', 'screen', 'spot', 'day'] as const;
export const GEAR_KINDS = ['rod', 'lure', 'rig', 'boat'] as const;
export const RESPONSES = ['ignored', 'turned', 'followed', 'struck', 'landed', 'lost'] as const;
/** Whether a fish took the lure, with or without ending in the boat. */
export const isBite = (response: string): boolean => response === 'struck' || response === 'landed' || response === 'lost';

const soundings = {
  time: needed(time('when')),
  latitude: needed(latitude),
  longitude: needed(longitude),
  depth_m: needed(depth),
  temperature_c: temperature,
  hardness: share,
  heading_deg: degrees,
  speed_ms: speed,
} satisfies Fields;

const trips = {
  trip: needed(key),
  start: needed(time('cast off')),
  end: needed(time('back at the ramp')),
  purpose: choice('purpose', ['scout', 'guide', 'practice', 'tournament']),
  goal: choice('goal', ['action', 'size', 'best']),
  crew: text('who was aboard', 400),
  boat: text('boat'),
  weigh_in: time('when fish have to be on the scale'),
  bag: number('fish that count', { min: 1, max: 100, whole: true }),
  least_length_m: number('least length that counts, m', { min: 0, max: 12 }),
  notes,
} satisfies Fields;

const salinity = number('practical salinity, no unit', { min: 0, max: 45 });

const conditions = {
  trip: needed(key),
  time: needed(time('when')),
  latitude,
  longitude,
  surface_temperature_c: temperature,
  secchi_m: number('Secchi depth, m', { min: 0.01, max: 80 }),
  wind_from_deg: degrees,
  wind_speed_ms: speed,
  cloud_fraction: share,
  air_pressure_hpa: number('hPa', { min: 400, max: 1100 }),
  air_temperature_c: number('°C', { min: -60, max: 60 }),
  water_level_m: number('m above datum', { min: -500, max: 9000 }),
  current_speed_ms: speed,
  current_to_deg: degrees,
  salinity,
  signs: notes,
} satisfies Fields;

const profiles = {
  trip: needed(key),
  profile: needed(key),
  time: needed(time('when')),
  depth_m: needed(depth),
  temperature_c: needed(temperature),
  latitude,
  longitude,
  oxygen_mg_l: number('mg/l', { min: 0, max: 40 }),
  salinity,
} satisfies Fields;

const track = {
  trip: needed(key),
  time: needed(time('when')),
  latitude: needed(latitude),
  longitude: needed(longitude),
  mode: needed(choice('mode', MODES)),
  depth_m: depth,
  heading_deg: degrees,
  view: choice('view', VIEWS),
  port_range_m: range,
  starboard_range_m: range,
  sector_deg: degrees,
  sector_range_m: range,
} satisfies Fields;

const stops = {
  trip: needed(key),
  stop: needed(key),
  start: needed(time('from')),
  end: needed(time('to')),
  latitude: needed(latitude),
  longitude: needed(longitude),
  radius_m: range,
  rods: number('rods', { min: 0, max: 100, whole: true }),
  outcome: choice('outcome', OUTCOMES),
  boats_near: number('boats', { min: 0, max: 1000, whole: true }),
  notes,
} satisfies Fields;

const contacts = {
  trip: needed(key),
  time: needed(time('when')),
  latitude: needed(latitude),
  longitude: needed(longitude),
  kind: needed(choice('kind', CONTACT_KINDS)),
  contact: key,
  same_as: key,
  stop: key,
  view: choice('view', VIEWS),
  rig: text('rig'),
  settings: text('settings', 1000),
  species: text('species', 100),
  confidence: share,
  confirmed: choice('how confirmed', ['catch', 'camera', 'sight', 'none']),
  count: number('how many', { min: 0, max: 1e6, whole: true }),
  size: choice('size', ['small', 'medium', 'large']),
  water_depth_m: depth,
  top_m: depth,
  bottom_m: depth,
  form: choice('form', ['arches', 'streaks', 'cloud', 'ball', 'specks', 'mass']),
  density: choice('density', ['loose', 'medium', 'tight']),
  core: choice('core', ['weak', 'medium', 'strong']),
  hardness: share,
  cover: choice('cover', COVERS),
  side_of_cover: text('side of cover'),
  behaviour: text('behaviour', 400),
  notes,
} satisfies Fields;

const responses = {
  trip: needed(key),
  time: needed(time('when')),
  response: needed(choice('response', RESPONSES)),
  contact: key,
  stop: key,
  species: text('species', 100),
  length_m: number('length, m', { min: 0, max: 12 }),
  mass_kg: number('mass, kg', { min: 0, max: 3000 }),
  fate: choice('fate', FATES),
  depth_m: depth,
  lure: text('lure'),
  lure_mass_g: number('g', { min: 0, max: 10000 }),
  lure_colour: text('colour'),
  presentation: text('presentation', 400),
  casts: number('casts', { min: 0, max: 100000, whole: true }),
  rod: text('rod'),
  angler: text('who had it on the line'),
  notes,
} satisfies Fields;

/** Pictures, each a file of its own beside the log. */
const photos = {
  trip: needed(key),
  photo: needed(text('name of its file, without the ending', 100)),
  time: needed(time('when')),
  shows: needed(choice('what it shows', SHOWN)),
  contact: key,
  stop: key,
  response_time: time('of the fish that it shows'),
  spot: text('name of the spot that it shows', 120),
  caption: notes,
} satisfies Fields;

/** Named places that somebody fishes. */
const spots = {
  name: needed(text('name', 120)),
  latitude: needed(latitude),
  longitude: needed(longitude),
  notes,
} satisfies Fields;

/** What somebody fishes with: chosen by touch instead of typed. */
const gear = {
  kind: needed(choice('kind', GEAR_KINDS)),
  name: needed(text('name', 200)),
  mass_g: number('g', { min: 0, max: 10000 }),
  colour: text('colour'),
  presentation: text('presentation', 400),
  sink_ms: number('sink rate, m/s', { min: 0, max: 5 }),
  length_m: number('length, m', { min: 0, max: 100 }),
  draught_m: number('draught, m', { min: 0, max: 20 }),
  settings: text('settings', 1000),
  notes,
} satisfies Fields;

/** All records that travel as CSV, by the name of their file. */
export const records = { soundings, trips, conditions, profiles, track, stops, contacts, responses, photos, spots, gear };

export type RecordName = keyof typeof records;
export type Sounding = RowOf<typeof soundings>;
export type Trip = RowOf<typeof trips>;
export type Reading = RowOf<typeof conditions>;
export type ProfileRow = RowOf<typeof profiles>;
export type TrackFix = RowOf<typeof track>;
export type Stop = RowOf<typeof stops>;
export type Contact = RowOf<typeof contacts>;
export type Response = RowOf<typeof responses>;
export type Photo = RowOf<typeof photos>;
export type Gear = RowOf<typeof gear>;

/** Columns of a record as it is sent and stored within its trip, whose key stands elsewhere. */
export const columnsOf = (record: RecordName): string[] => Object.keys(records[record]).filter((name) => name !== 'trip');

/** A row of any record, as its file and the HTTP interface have it. */
export type Row = Record<string, string | number | null>;

/** A row of a record in which nothing is said yet. */
export const emptyRow = (record: RecordName): Row => Object.fromEntries(Object.keys(records[record]).map((name) => [name, null]));

/** The order in which files of a logbook are read: trips before what belongs to them. */
export const RECORD_ORDER: RecordName[] = [
  'soundings',
  'spots',
  'gear',
  'trips',
  'conditions',
  'profiles',
  'track',
  'stops',
  'contacts',
  'responses',
  'photos',
];

/** Records that a file holds only where it is called by their name: their columns are those of many other tables. */
export const BY_NAME: readonly RecordName[] = ['spots', 'gear', 'photos'];

/** Columns of the natural key of a row within its water: the key column where the file has one, else all needed columns. */
export function naturalKey(record: RecordName, row: Row): string[] {
  switch (record) {
    case 'trips':
      return ['trip', 'start'];
    case 'stops':
      return ['trip', 'stop'];
    case 'profiles':
      return ['trip', 'profile', 'depth_m'];
    case 'photos':
      return ['trip', 'photo'];
    case 'spots':
      return ['name'];
    case 'contacts':
      return row.contact != null ? ['trip', 'contact'] : ['trip', 'time', 'latitude', 'longitude', 'kind'];
    default:
      return Object.entries(records[record] as Fields)
        .filter(([, f]) => f.needed)
        .map(([name]) => name);
  }
}

/** Names that are a file's everywhere. */
const FILE_NAME = /^[\p{L}\p{N}_][\p{L}\p{N} ._-]*$/u;

/** What no single field shows: times and depths out of order. Null when the row is possible. */
export function rowContradiction(record: RecordName, row: Row): { column: string; reason: string } | null {
  if (
    (record === 'trips' || record === 'stops') &&
    row.start != null &&
    row.end != null &&
    Date.parse(String(row.end)) < Date.parse(String(row.start))
  )
    return { column: 'end', reason: 'is before start' };
  if (record === 'contacts' && row.top_m != null && row.bottom_m != null && Number(row.bottom_m) < Number(row.top_m))
    return { column: 'bottom_m', reason: `${row.bottom_m} lies above top_m ${row.top_m}: depths are positive down` };
  if (record === 'photos' && row.photo != null && !FILE_NAME.test(String(row.photo)))
    return { column: 'photo', reason: 'is no name of a file' };
  return null;
}

/** Odd but possible: kept, flagged and listed. Null when there is nothing odd. */
export function rowOddity(record: RecordName, row: Row): { column: string; reason: string } | null {
  if (record === 'contacts' && row.water_depth_m != null) {
    const deepest = row.bottom_m ?? row.top_m;
    if (deepest != null && Number(deepest) > Number(row.water_depth_m) + 0.05)
      return {
        column: row.bottom_m != null ? 'bottom_m' : 'top_m',
        reason: `${deepest} m is deeper than the water there (${row.water_depth_m} m)`,
      };
  }
  return null;
}
