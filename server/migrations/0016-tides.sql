-- The tide of a water: harmonic constants, high and low waters, streams.
ALTER TABLE waters ADD COLUMN tide jsonb;
