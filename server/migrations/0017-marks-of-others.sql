-- Marks that others sent: who they are from, and how far off they may lie, m.
ALTER TABLE covers ADD COLUMN source text;
ALTER TABLE covers ADD COLUMN within_m real;
-- Two who blur to the same grid both say the same place.
DROP INDEX covers_key;
CREATE UNIQUE INDEX covers_key ON covers (water_id, kind, coalesce(source, ''), md5(geometry::text));
