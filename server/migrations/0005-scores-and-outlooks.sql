-- How a fit did on trips that it had not seen; null until it was scored.
ALTER TABLE models ADD COLUMN scores jsonb;

-- A forecast as it was shown on a trip, before anybody knew: the first of each species stands.
CREATE TABLE outlooks (
  id uuid PRIMARY KEY,
  trip_id uuid NOT NULL REFERENCES trips,
  species text NOT NULL,
  made_at timestamptz NOT NULL,
  body jsonb NOT NULL,
  UNIQUE (trip_id, species)
);
