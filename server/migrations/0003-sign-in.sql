-- Who may come in over the boat's network. Not part of a backup: a copy of the logbook opens no door.
CREATE TABLE passwords (
  account_id uuid PRIMARY KEY REFERENCES accounts,
  -- argon2id, with its salt and cost
  hash text NOT NULL,
  set_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE sessions (
  -- SHA-256 of what the device holds: who reads the database signs in nowhere
  token bytea PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts,
  began_at timestamptz NOT NULL DEFAULT now(),
  seen_at timestamptz NOT NULL DEFAULT now()
);
