-- How many looks a trip has, told without reading them.
ALTER TABLE looks ADD COLUMN count integer GENERATED ALWAYS AS (jsonb_array_length(body)) STORED;

-- Readings are opened, put right and deleted one by one, as marks are.
ALTER TABLE conditions ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid();
ALTER TABLE conditions ADD COLUMN version integer NOT NULL DEFAULT 1;
ALTER TABLE conditions ADD COLUMN air_temperature_c double precision;
CREATE UNIQUE INDEX conditions_id ON conditions (id);

-- What trips and their records were before somebody changed them, and from which device.
CREATE TABLE changes (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  trip_id uuid NOT NULL REFERENCES trips,
  record text NOT NULL,
  record_id uuid NOT NULL,
  at timestamptz NOT NULL DEFAULT clock_timestamp(),
  device text,
  done text NOT NULL,
  before jsonb,
  after jsonb
);
CREATE INDEX changes_trip ON changes (trip_id, at);

-- What each trip comes to in the list of trips, told anew when the trip has changed since.
CREATE TABLE trip_lines (
  trip_id uuid PRIMARY KEY REFERENCES trips,
  -- When the trip had changed last.
  stamp timestamptz NOT NULL,
  body jsonb NOT NULL
);
