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
