-- The log of a water as pages read it, packed once each time that something in it has changed.
CREATE TABLE packed_logbooks (
  water_id uuid PRIMARY KEY REFERENCES waters,
  stamp text NOT NULL,
  -- Columns, gzip.
  body bytea NOT NULL,
  -- How often each cell was looked at.
  looked_at jsonb NOT NULL
);
