/** The tables of a backup, those that others point at first, with what puts their rows in one order. Charts, looks and fits are made from them. */
export const TABLES: { table: string; order: string }[] = [
  { table: 'accounts', order: 'id' },
  { table: 'waters', order: 'id' },
  { table: 'species', order: 'id' },
  { table: 'covers', order: 'id' },
  { table: 'surveys', order: 'id' },
  { table: 'soundings', order: 'water_id, time, latitude, longitude, depth_m, survey_id, temperature_c, hardness, heading_deg, speed_ms' },
  { table: 'trips', order: 'id' },
  { table: 'conditions', order: 'trip_id, time, t::text' },
  { table: 'profiles', order: 'trip_id, profile, depth_m' },
  {
    table: 'track',
    order:
      'trip_id, time, latitude, longitude, mode, view, depth_m, heading_deg, port_range_m, starboard_range_m, sector_deg, sector_range_m',
  },
  { table: 'stops', order: 'id' },
  { table: 'contacts', order: 'id' },
  { table: 'responses', order: 'id' },
  { table: 'photos', order: 'id' },
  { table: 'photo_files', order: 'photo_id' },
  { table: 'gear', order: 'id' },
  { table: 'plan_places', order: 'id' },
  { table: 'day_plans', order: 'water_id' },
  { table: 'spots', order: 'id' },
  { table: 'import_mappings', order: 'account_id, signature' },
  { table: 'outlooks', order: 'id' },
  { table: 'changes', order: 'at, id' },
];

export const FORMAT = 'restless-shoal backup 1';

/** What a backup says of itself, as its last file. */
export interface Manifest {
  format: string;
  /** The newest migration of the database it came from. */
  schema: string;
  files: { file: string; rows: number; sha256: string }[];
}
