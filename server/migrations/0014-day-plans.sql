-- The plan of a day: one a water, as the device that made it last left it.
CREATE TABLE day_plans (
  water_id uuid PRIMARY KEY REFERENCES waters,
  made_at timestamptz NOT NULL,
  plan jsonb NOT NULL
);
