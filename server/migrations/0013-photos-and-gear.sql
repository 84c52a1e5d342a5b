-- Of a tournament: when fish have to be on the scale, how many count, and how long they have to be.
ALTER TABLE trips ADD COLUMN weigh_in timestamptz;
ALTER TABLE trips ADD COLUMN bag integer;
ALTER TABLE trips ADD COLUMN least_length_m double precision;

-- Who had the fish on the line: an angler, a client.
ALTER TABLE responses ADD COLUMN angler text;

CREATE TABLE photos (
  id uuid PRIMARY KEY,
  trip_id uuid NOT NULL REFERENCES trips,
  photo text NOT NULL,
  time timestamptz NOT NULL,
  shows text NOT NULL,
  contact text,
  stop text,
  response_time timestamptz,
  spot text,
  caption text,
  version integer NOT NULL DEFAULT 1,
  deleted_at timestamptz,
  UNIQUE (trip_id, photo)
);

-- The pictures themselves, apart: lists of photos do not read them. JPEG without anything but the picture, and one for lists.
CREATE TABLE photo_files (
  photo_id uuid PRIMARY KEY REFERENCES photos,
  picture bytea NOT NULL,
  small bytea NOT NULL,
  width integer NOT NULL,
  height integer NOT NULL
);
ALTER TABLE photo_files ALTER COLUMN picture SET STORAGE EXTERNAL, ALTER COLUMN small SET STORAGE EXTERNAL;

-- What somebody fishes with, on whatever water.
CREATE TABLE gear (
  id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts,
  kind text NOT NULL,
  name text NOT NULL,
  mass_g double precision,
  colour text,
  presentation text,
  sink_ms double precision,
  length_m double precision,
  draught_m double precision,
  settings text,
  notes text,
  version integer NOT NULL DEFAULT 1,
  deleted_at timestamptz
);
CREATE UNIQUE INDEX gear_name ON gear (account_id, kind, name) WHERE deleted_at IS NULL;

-- Spots of a file are known by their name as it is written.
CREATE UNIQUE INDEX spots_name_written ON spots (water_id, name) WHERE deleted_at IS NULL;
