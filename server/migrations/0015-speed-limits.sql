-- How fast one may go in a zone, m/s.
ALTER TABLE covers ADD COLUMN speed_limit_ms real;
