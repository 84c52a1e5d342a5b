-- By what code a chart was built: one built by another is built anew.
ALTER TABLE charts ADD COLUMN code text NOT NULL DEFAULT '';
