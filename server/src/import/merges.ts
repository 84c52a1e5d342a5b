import type { RecordName } from '@restless-shoal/core/logbook';
import type { MergeInput } from '../db/merge';

/** How the rows of each record come into their table. */
export const MERGES: Record<RecordName, Pick<MergeInput, 'table' | 'key' | 'keyed' | 'trash' | 'where'>> = {
  soundings: { table: 'soundings', key: ['water_id', 'time', 'latitude', 'longitude', 'depth_m'], keyed: false, trash: false },
  trips: { table: 'trips', key: ['water_id', 'trip', 'start'], keyed: true, trash: true },
  conditions: { table: 'conditions', key: ['trip_id', 'time'], keyed: false, trash: true },
  profiles: { table: 'profiles', key: ['trip_id', 'profile', 'depth_m'], keyed: true, trash: true },
  track: { table: 'track', key: ['trip_id', 'time', 'latitude', 'longitude', 'mode'], keyed: false, trash: true },
  stops: { table: 'stops', key: ['trip_id', 'stop'], keyed: true, trash: true },
  contacts: { table: 'contacts', key: ['trip_id', 'contact'], keyed: true, trash: true },
  responses: { table: 'responses', key: ['trip_id', 'time', 'response'], keyed: false, trash: true },
  photos: { table: 'photos', key: ['trip_id', 'photo'], keyed: true, trash: true },
  spots: { table: 'spots', key: ['water_id', 'name'], keyed: true, trash: false, where: 'deleted_at IS NULL' },
  gear: { table: 'gear', key: ['account_id', 'kind', 'name'], keyed: true, trash: false, where: 'deleted_at IS NULL' },
};

/** Records with an id of their own, made here for what was logged elsewhere. */
export const WITH_ID: RecordName[] = ['trips', 'stops', 'contacts', 'responses', 'photos', 'spots', 'gear'];

/** What the rows of a file belong to, where that is no trip. */
export const BELONGS: Partial<Record<RecordName, string[]>> = { soundings: ['water_id', 'survey_id'], trips: ['water_id'], spots: ['water_id'], gear: ['account_id'] }; // prettier-ignore
