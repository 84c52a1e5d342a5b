-- Places to go to, put on the plan from patterns or by hand, and taken off again.
CREATE TABLE plan_places (
  id uuid PRIMARY KEY,
  water_id uuid NOT NULL REFERENCES waters,
  name text NOT NULL,
  words text,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  depth_m real,
  added_at timestamptz NOT NULL DEFAULT now(),
  deleted_at timestamptz
);
CREATE INDEX plan_places_water ON plan_places (water_id, added_at);
