-- Charts are built by jobs, from soundings that are cleaned by settings of the water.

ALTER TABLE waters ADD COLUMN cleaning jsonb;
-- Moves with everything a chart is made from; a chart whose own number is lower is out of date.
ALTER TABLE waters ADD COLUMN chart_wanted integer NOT NULL DEFAULT 1;
ALTER TABLE charts ADD COLUMN made_for integer NOT NULL DEFAULT 0;

ALTER TABLE covers ADD COLUMN name text;
ALTER TABLE covers ADD COLUMN height_m real;

-- What a job is about, how far it is in words, and what came of it; beaten while it runs, so that one whose server
-- died is seen and taken up again.
ALTER TABLE job_progress ADD COLUMN water_id uuid REFERENCES waters;
ALTER TABLE job_progress ADD COLUMN words text;
ALTER TABLE job_progress ADD COLUMN result jsonb;
ALTER TABLE job_progress ADD COLUMN server uuid;

-- Millions of soundings come in one COPY, in one transaction with their water and survey: checking each row's
-- references again costs more than writing it. Soundings are written nowhere else.
ALTER TABLE soundings DROP CONSTRAINT soundings_water_id_fkey;
ALTER TABLE soundings DROP CONSTRAINT soundings_survey_id_fkey;
