-- What is asked for by water is found by water, however many waters there are.
CREATE INDEX surveys_water ON surveys (water_id);
CREATE INDEX job_progress_water ON job_progress (water_id);
