import type { InferType } from 'yup';
import type { CleanSettings } from '../chart';
import type { LookedAt, Outcome, ScoreCard } from '../forecast';
import type { OutlineGeometry } from '../geo';
import type { Contact, CoverFeature, Look, ProfileRow, Reading, Response, Stop, TrackFix, Trip } from '../logbook';
import type { RodHours, SpotStop } from '../patterns';
import type { SpeciesProfile } from '../species';
import type { TideRecord } from '../tide';
import type { BackupsState } from './backups';
import type { ImportPreview } from './import-preview';
import type { Change, FoundInTrip, LoggedTrip, SpeciesRecord, SpotYield, StoredGear, StoredPhoto } from './logbook';
import type { dayPlan } from './requests';
import type { TrashItem } from './trash';

// What the HTTP interface answers, as JSON.

export interface WaterSummary {
  id: string;
  name: string;
  kind: string | null;
  time_zone: string | null;
  altitude_m: number | null;
  /** Where it lies, where no outline says so, and how deep it is at the most, as somebody said. */
  latitude: number | null;
  longitude: number | null;
  deepest_m: number | null;
  archived_at: string | null;
  trips: number;
  contacts: number;
  soundings: number | null;
}

/** What is kept of a water itself. */
export interface StoredWater extends Omit<WaterSummary, 'trips' | 'contacts' | 'soundings'> {
  epsg: number | null;
  outline: OutlineGeometry | null;
  outline_proposed: boolean;
  forage: string[] | null;
  rules: unknown;
  cleaning: CleanSettings | null;
  /** Heights and streams of its tide; null: none is known. */
  tide: TideRecord | null;
}

export interface Water extends StoredWater {
  cover: (CoverFeature & { id: number })[];
  species: SpeciesProfile[];
  /** Names of the species that the log holds, most seen first. */
  logged: string[];
}

export interface TripRow {
  id: string;
  trip: string;
  start: string;
  end: string | null;
  purpose: Trip['purpose'];
  goal: Trip['goal'];
  crew: string | null;
  boat: string | null;
  /** Of a tournament: when fish have to be on the scale, how many count, and how long they have to be, m. */
  weigh_in?: string | null;
  bag?: number | null;
  least_length_m?: number | null;
  notes: string | null;
  version?: number;
}

/** Trips, readings and profiles of a water. */
export interface WaterLog {
  trips: TripRow[];
  readings: StoredReading[];
  profiles: ProfileRow[];
}

/** A record as the server has it; without a version it is what a device made of it. */
export type StoredContact = Contact & { id: string; trip_id: string; version?: number };
export type StoredStop = Stop & { id: string; version?: number };
export type StoredResponse = Response & { id: string; version?: number };
/** A reading that waits on a device has no id yet. */
export type StoredReading = Reading & { id?: string; trip_id?: string; version?: number };

export interface TripDetail {
  trip: TripRow;
  track: TrackFix[];
  stops: StoredStop[];
  contacts: StoredContact[];
  responses: StoredResponse[];
  photos: StoredPhoto[];
}

export interface TripLooks {
  trip: string;
  looks: Look[];
  outside: number;
}

/** A trip that runs, with the water it is on. */
export interface RunningTrip {
  id: string;
  trip: string;
  water_id: string;
  water: string;
}

export const JOB_KINDS = ['looks', 'fit', 'score', 'chart', 'import'] as const;
export type JobKind = (typeof JOB_KINDS)[number];

export interface JobState {
  id: string;
  kind: JobKind;
  water: string | null;
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  /** 0–1. */
  share: number;
  /** What it is at. */
  words: string | null;
  error: string | null;
  /** What came of it, once done. */
  result: unknown;
}

/** One import of soundings. */
export interface Survey {
  id: number;
  source: string;
  imported_at: string;
  soundings: number;
}

/** The plan of a day. */
export type DayPlan = InferType<typeof dayPlan>;

/** A place to go to. */
export interface PlanPlace {
  id: string;
  name: string;
  words: string | null;
  latitude: number;
  longitude: number;
  depth_m: number | null;
}

/** What of a water has changed last: cheap to ask for, so that a second device sees what the first one marked. */
export interface Pulse {
  /** Moves with every change of any trip, also of one that was deleted. */
  log: string;
  /** Trips that run, with their stamps. */
  running: { id: string; changed_at: string }[];
  chart: number | null;
  water: number;
}

/** What an ended trip saw of a forecast that was shown on it. */
export type TripOutcome = Outcome & { trip: string; at: string };

/** How another device finds the server. */
export interface Reachable {
  addresses: string[];
  /** Of the authority of a self-made certificate; null for one from elsewhere. */
  fingerprint: string | null;
  /** The address as a picture for a camera, SVG. */
  code: string | null;
}

/** The boat's network. */
export interface FeedState {
  state: 'off' | 'connecting' | 'connected' | 'failing';
  trouble: string | null;
  host?: string;
  port?: number;
  echoPort?: number | null;
  simulated: boolean;
}

/** What became of a record that was sent. */
export interface Written {
  id: string;
  done: 'added' | 'changed' | 'same' | 'deleted' | 'restored';
}
interface Done {
  done: string;
}
interface Queued {
  job: string;
}

/** The answer of each route that answers with JSON. */
export interface Answers {
  'GET /health': { ok: true; epoch: unknown };
  'GET /reach': Reachable;
  'POST /session': { signedIn: boolean };
  'DELETE /session': { signedIn: boolean };
  'GET /backups': BackupsState;
  'PUT /backups': BackupsState;
  'POST /backups': BackupsState;
  'GET /trash': { days: number; items: TrashItem[] };
  'POST /demo': Queued & { water: string };
  'PUT /uploads/:upload/:file': { bytes: number };
  'POST /imports/preview': ImportPreview;
  'POST /imports': Queued;
  'GET /jobs/:job': JobState;
  'DELETE /jobs/:job': Done;

  'GET /waters': WaterSummary[];
  'PUT /waters/:water': StoredWater;
  'GET /waters/:water': Water;
  'DELETE /waters/:water': Written;
  'POST /waters/:water/restore': Written;
  'POST /waters/:water/archive': Done;
  'PUT /waters/:water/rules': Done;
  'PUT /waters/:water/species/:name': Done;
  'GET /waters/:water/log': WaterLog;
  'GET /waters/:water/pulse': Pulse;
  'GET /waters/:water/contacts': StoredContact[];
  'GET /waters/:water/looks': TripLooks[];
  'GET /waters/:water/looked-at': LookedAt & { running: { trip: string; looks: Look[] }[] };
  'GET /waters/:water/rod-hours': RodHours;
  'GET /waters/:water/jobs': JobState[];
  'GET /waters/:water/surveys': Survey[];
  'POST /waters/:water/chart': Queued;
  'PUT /waters/:water/cleaning': Queued;
  'PUT /waters/:water/tide': Queued;
  'DELETE /waters/:water/tide': Queued;
  'PUT /waters/:water/outline': Queued;
  'POST /waters/:water/cover': Queued;
  'DELETE /waters/:water/cover': Queued;
  'DELETE /waters/:water/cover/:id': Queued;
  'GET /waters/:water/plan': PlanPlace[];
  'POST /waters/:water/plan': Done;
  'DELETE /waters/:water/plan/:place': Done;
  'GET /waters/:water/day-plan': DayPlan[];
  'PUT /waters/:water/day-plan': Done;
  'DELETE /waters/:water/day-plan': Done;
  'GET /waters/:water/spots': SpotYield[];
  'GET /waters/:water/spots/:spot/stops': SpotStop[];
  'PUT /waters/:water/spots/:spot': Done;
  'DELETE /waters/:water/spots/:spot': Done;
  'POST /waters/:water/spots/:spot/restore': Done;
  'GET /waters/:water/photos': StoredPhoto[];
  'POST /waters/:water/models': Queued;
  'GET /waters/:water/models/:species/scores': { card: ScoreCard | null; pending: boolean };
  'GET /waters/:water/outcomes': TripOutcome[];

  'PUT /waters/:water/trips/:trip': TripRow;
  'DELETE /waters/:water/trips/:trip': Written;
  'POST /waters/:water/trips/:trip/restore': Written;
  'POST /waters/:water/trips/:trip/merge': { change: string };
  'POST /waters/:water/trips/:trip/unmerge': Done;
  'POST /waters/:water/trips/:trip/split': Written;
  'GET /logbook': LoggedTrip[];
  'GET /logbook/search': FoundInTrip[];
  'GET /logbook/records': SpeciesRecord[];
  'GET /trips/:trip/changes': Change[];
  'GET /trips/running': RunningTrip[];
  'GET /trips/:trip': TripDetail;
  'PUT /trips/:trip/stops/:id': Written;
  'DELETE /trips/:trip/stops/:id': Written;
  'POST /trips/:trip/stops/:id/restore': Written;
  'PUT /trips/:trip/contacts/:id': Written;
  'DELETE /trips/:trip/contacts/:id': Written;
  'POST /trips/:trip/contacts/:id/restore': Written;
  'PUT /trips/:trip/responses/:id': Written;
  'DELETE /trips/:trip/responses/:id': Written;
  'POST /trips/:trip/responses/:id/restore': Written;
  'PUT /trips/:trip/conditions/:id': Written;
  'DELETE /trips/:trip/conditions/:id': Written;
  'POST /trips/:trip/conditions/:id/restore': Written;
  'PUT /trips/:trip/photos/:id': Written;
  'PUT /trips/:trip/photos/:id/picture': { bytes: number; width: number; height: number };
  'DELETE /trips/:trip/photos/:id': Written;
  'POST /trips/:trip/photos/:id/restore': Written;
  'GET /gear': StoredGear[];
  'PUT /gear/:id': Written;
  'DELETE /gear/:id': Written;
  'POST /gear/:id/restore': Written;
  'POST /trips/:trip/records': { changed: number };
  'POST /trips/:trip/track': { added: number };
  'PUT /trips/:trip/track/mode': { changed: number };
  'POST /trips/:trip/conditions': { added: number };
  'POST /trips/:trip/profiles': { added: number };
  'PUT /trips/:trip/outlooks/:id': Done;

  'GET /feed': FeedState;
  'PUT /feed': FeedState;
  'DELETE /feed': FeedState;
  'POST /waters/:water/simulated-boat': FeedState & { port: number };
  'GET /feed/truth': unknown;
}
