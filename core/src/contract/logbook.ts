import type { Gear, Photo, Row } from '../logbook';
import type { TripRow } from './answers';

/** One mark of a small Column: kind, upper and lower edge and depth of the water in metres (null where not said), and how many. */
export type SmallMark = [kind: string, top: number, bottom: number, water: number | null, count: number];

/** A trip as the Logbook lists it. */
export interface LoggedTrip extends TripRow {
  water_id: string;
  water: string;
  time_zone: string | null;
  /** Looks derived so far; null while none are. */
  looks: number | null;
  marks: number;
  /** Fish marked, by species, the most first; those without a name under ''. */
  fish: [species: string, marks: number][];
  /** Fish landed, by species, the most first. */
  landed: [species: string, fish: number][];
  /** Times fished, and places where nothing was found. */
  stops: number;
  blanks: number;
  /** First readings of the day. */
  surface_temperature_c: number | null;
  secchi_m: number | null;
  wind_from_deg: number | null;
  wind_speed_ms: number | null;
  /** Marks that are spread over the trip, at most a dozen. */
  column: SmallMark[];
}

/** The largest of a species that were landed, of all waters: each null where none was measured or weighed. */
export interface SpeciesRecord {
  species: string;
  landed: number;
  longest: { length_m: number; trip: string; time: string; water: string; angler: string | null } | null;
  heaviest: { mass_kg: number; trip: string; time: string; water: string; angler: string | null } | null;
}

/** Where words of the log hold what was searched for. */
export interface FoundInTrip {
  trip: string;
  /** How many records of it do. */
  count: number;
  /** The first few of them. */
  first: { record: 'trips' | 'contacts' | 'stops' | 'responses' | 'conditions' | 'photos'; id: string; field: string; text: string }[];
}

/** What somebody made of a trip or a record of it. */
export interface Change {
  id: string;
  record: 'trips' | 'contacts' | 'stops' | 'responses' | 'conditions' | 'photos';
  record_id: string;
  at: string;
  /** Which device; null where it did not say. */
  device: string | null;
  done: 'changed' | 'deleted' | 'restored' | 'merged' | 'split';
  /** The fields that were changed, as they were and as they became. */
  before: Row | null;
  after: Row | null;
}

/** A named place that somebody fishes. */
export interface Spot {
  id: string;
  name: string;
  latitude: number;
  longitude: number;
  notes: string | null;
}

/** A month of a spot: stops fished, minutes, bites, fish landed. */
export type SpotMonth = [month: number, stops: number, minutes: number, bites: number, landed: number];

/** A spot, and what it yielded: stops within its reach and what fish did at them. */
export interface SpotYield extends Spot {
  stops: number;
  minutes: number;
  bites: number;
  /** Fish landed, by species, the most first; '' where not said. */
  landed: [species: string, fish: number][];
  /** When it was fished last. */
  last: string | null;
  /** The months of the year (1–12) in which it was fished, over all years. */
  months: SpotMonth[];
}

/** A picture of a trip. */
export type StoredPhoto = Photo & {
  id: string;
  trip_id?: string;
  version?: number;
  /** Its size as it is kept; null while it has not come. */
  bytes?: number | null;
  width?: number | null;
  height?: number | null;
};

/** Something that somebody fishes with. */
export type StoredGear = Gear & { id: string; version?: number };
