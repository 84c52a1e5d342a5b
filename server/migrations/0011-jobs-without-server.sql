-- Whether somebody runs a job is told by its signs of life alone.
ALTER TABLE job_progress DROP COLUMN server;
