-- The records. Column names are those of the exchange formats: one vocabulary from file to table to screen.
-- Times are timestamptz (UTC), depths metres below the surface, positions WGS 84 degrees.

CREATE TABLE installation (
  epoch uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  created_at timestamptz NOT NULL DEFAULT now()
);
INSERT INTO installation DEFAULT VALUES;

CREATE TABLE accounts (
  id uuid PRIMARY KEY,
  name text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE waters (
  id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts,
  name text NOT NULL,
  kind text,
  datum text,
  altitude_m double precision,
  time_zone text,
  epsg integer,
  outline jsonb,
  outline_proposed boolean NOT NULL DEFAULT false,
  rules jsonb,
  forage jsonb,
  rigs jsonb,
  version integer NOT NULL DEFAULT 1,
  changed_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (account_id, name)
);

CREATE TABLE surveys (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  source text NOT NULL,
  imported_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE soundings (
  water_id uuid NOT NULL REFERENCES waters,
  survey_id bigint NOT NULL REFERENCES surveys,
  time timestamptz NOT NULL,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  depth_m double precision NOT NULL,
  temperature_c real,
  hardness real,
  heading_deg real,
  speed_ms real
);
CREATE UNIQUE INDEX soundings_key ON soundings (water_id, time, latitude, longitude, depth_m);

CREATE TABLE covers (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  kind text NOT NULL,
  cover text,
  geometry jsonb NOT NULL,
  placed_on date
);
-- By digest: an area's corners can be longer than an index entry may be.
CREATE UNIQUE INDEX covers_key ON covers (water_id, kind, md5(geometry::text));

CREATE TABLE charts (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  built_at timestamptz NOT NULL DEFAULT now(),
  soundings integer NOT NULL,
  cells integer NOT NULL,
  deepest_m real NOT NULL,
  body bytea NOT NULL
);
CREATE INDEX charts_water ON charts (water_id, id DESC);

CREATE TABLE trips (
  id uuid PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  trip text NOT NULL,
  start timestamptz NOT NULL,
  "end" timestamptz,
  purpose text,
  goal text,
  crew text,
  boat text,
  notes text,
  deleted_at timestamptz,
  version integer NOT NULL DEFAULT 1,
  -- Moves with every change to the trip or to anything in it; looks and fits are stale when it is newer.
  changed_at timestamptz NOT NULL DEFAULT clock_timestamp(),
  UNIQUE (water_id, trip, start)
);

CREATE TABLE conditions (
  trip_id uuid NOT NULL REFERENCES trips,
  time timestamptz NOT NULL,
  latitude double precision,
  longitude double precision,
  surface_temperature_c double precision,
  secchi_m double precision,
  wind_from_deg double precision,
  wind_speed_ms double precision,
  cloud_fraction double precision,
  air_pressure_hpa double precision,
  water_level_m double precision,
  current_speed_ms double precision,
  current_to_deg double precision,
  signs text,
  deleted_at timestamptz,
  PRIMARY KEY (trip_id, time)
);

CREATE TABLE profiles (
  trip_id uuid NOT NULL REFERENCES trips,
  profile text NOT NULL,
  time timestamptz NOT NULL,
  depth_m double precision NOT NULL,
  temperature_c double precision NOT NULL,
  latitude double precision,
  longitude double precision,
  oxygen_mg_l double precision,
  deleted_at timestamptz,
  PRIMARY KEY (trip_id, profile, depth_m)
);

CREATE TABLE track (
  trip_id uuid NOT NULL REFERENCES trips,
  time timestamptz NOT NULL,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  mode text NOT NULL,
  depth_m real,
  heading_deg real,
  view text,
  port_range_m real,
  starboard_range_m real,
  sector_deg real,
  sector_range_m real,
  deleted_at timestamptz,
  PRIMARY KEY (trip_id, time, latitude, longitude, mode)
);

CREATE TABLE stops (
  id uuid PRIMARY KEY,
  trip_id uuid NOT NULL REFERENCES trips,
  stop text NOT NULL,
  start timestamptz NOT NULL,
  "end" timestamptz NOT NULL,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  radius_m double precision,
  rods integer,
  outcome text,
  boats_near integer,
  notes text,
  deleted_at timestamptz,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (trip_id, stop)
);

CREATE TABLE contacts (
  id uuid PRIMARY KEY,
  trip_id uuid NOT NULL REFERENCES trips,
  time timestamptz NOT NULL,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  kind text NOT NULL,
  contact text,
  same_as text,
  stop text,
  view text,
  rig text,
  settings text,
  species text,
  confidence double precision,
  confirmed text,
  count integer,
  size text,
  water_depth_m double precision,
  top_m double precision,
  bottom_m double precision,
  form text,
  density text,
  core text,
  hardness double precision,
  cover text,
  side_of_cover text,
  behaviour text,
  notes text,
  deleted_at timestamptz,
  version integer NOT NULL DEFAULT 1
);
CREATE UNIQUE INDEX contacts_key ON contacts (trip_id, contact) WHERE contact IS NOT NULL;
CREATE UNIQUE INDEX contacts_keyless ON contacts (trip_id, time, latitude, longitude, kind) WHERE contact IS NULL;

CREATE TABLE responses (
  id uuid PRIMARY KEY,
  trip_id uuid NOT NULL REFERENCES trips,
  time timestamptz NOT NULL,
  response text NOT NULL,
  contact text,
  stop text,
  species text,
  length_m double precision,
  mass_kg double precision,
  fate text,
  depth_m double precision,
  lure text,
  lure_mass_g double precision,
  lure_colour text,
  presentation text,
  casts integer,
  notes text,
  deleted_at timestamptz,
  version integer NOT NULL DEFAULT 1,
  UNIQUE (trip_id, time, response)
);

CREATE TABLE species (
  id uuid PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  name text NOT NULL,
  profile jsonb NOT NULL,
  local boolean NOT NULL DEFAULT true,
  UNIQUE (water_id, name)
);

-- Derived, never typed in: the looks of a trip, with the state of what they were derived from.
CREATE TABLE looks (
  trip_id uuid PRIMARY KEY REFERENCES trips,
  stamp text NOT NULL,
  body jsonb NOT NULL,
  outside jsonb NOT NULL
);

CREATE TABLE models (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  species text NOT NULL,
  -- What it was fitted from; the same inputs need no new fit.
  inputs text NOT NULL,
  fitted_at timestamptz NOT NULL DEFAULT now(),
  stats jsonb NOT NULL,
  body bytea NOT NULL,
  UNIQUE (water_id, species, inputs)
);

CREATE TABLE job_progress (
  job_id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts,
  queue text NOT NULL,
  share double precision NOT NULL DEFAULT 0,
  changed_at timestamptz NOT NULL DEFAULT now()
);
