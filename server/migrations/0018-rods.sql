-- Which rod a fish took, by its name in the gear.
ALTER TABLE responses ADD COLUMN rod text;
