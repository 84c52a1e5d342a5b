import type { Row } from '@restless-shoal/core/logbook';
import type { Point } from '@restless-shoal/core/geo';

/** Whole trips of rows, by file. */
export interface TripRows {
  trips: Row[];
  conditions: Row[];
  profiles: Row[];
  track: Row[];
  stops: Row[];
  contacts: Row[];
  responses: Row[];
}

/** Who says where to look next, in place of the angler's own habits; null: home. Told the boat's time and place and what was written down so far. */
export type Helm = (boat: Readonly<Boat>, rows: TripRows) => Point | null;

/** The boat's time, ms, and place, m. */
export interface Boat {
  t: number;
  x: number;
  y: number;
}
