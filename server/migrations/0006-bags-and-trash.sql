-- A water begins without a file, by where it lies; it can be put aside, and deleted with a way back.
ALTER TABLE waters ADD COLUMN latitude double precision;
ALTER TABLE waters ADD COLUMN longitude double precision;
-- How deep it is at the most, as somebody said; a chart knows better.
ALTER TABLE waters ADD COLUMN deepest_m double precision;
ALTER TABLE waters ADD COLUMN archived_at timestamptz;
ALTER TABLE waters ADD COLUMN deleted_at timestamptz;
ALTER TABLE waters DROP CONSTRAINT waters_account_id_name_key;
CREATE UNIQUE INDEX waters_name ON waters (account_id, name) WHERE deleted_at IS NULL;

-- A file is a bag of rows: two fish landed in the same minute are two fish. Records without a key of their own are told
-- apart by their content, so none of these is unique any more.
DROP INDEX soundings_key;
CREATE INDEX soundings_water ON soundings (water_id, time, latitude, longitude, depth_m);
ALTER TABLE conditions DROP CONSTRAINT conditions_pkey;
CREATE INDEX conditions_trip ON conditions (trip_id, time);
ALTER TABLE track DROP CONSTRAINT track_pkey;
CREATE INDEX track_trip ON track (trip_id, time);
DROP INDEX contacts_keyless;
CREATE INDEX contacts_trip ON contacts (trip_id, time);
ALTER TABLE responses DROP CONSTRAINT responses_trip_id_time_response_key;
CREATE INDEX responses_trip ON responses (trip_id, time);

-- How files of other programs are read, as somebody answered it once, by what they look like.
CREATE TABLE import_mappings (
  account_id uuid NOT NULL REFERENCES accounts,
  signature text NOT NULL,
  mapping jsonb NOT NULL,
  used_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (account_id, signature)
);

-- Places that somebody fishes, by the name they call them.
CREATE TABLE spots (
  id uuid PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  name text NOT NULL,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  notes text,
  deleted_at timestamptz
);
CREATE UNIQUE INDEX spots_name ON spots (water_id, lower(name)) WHERE deleted_at IS NULL;
