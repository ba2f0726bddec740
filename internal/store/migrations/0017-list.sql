-- The list of jobs: one index gives a page in its order and what it is filtered by, with the
-- words that are searched; what is counted is kept counted; who is booked for what has an
-- index of its own.

ALTER TABLE `jobs` ADD COLUMN `words` text NOT NULL DEFAULT ''

DROP TRIGGER jobs_search_new

DROP TRIGGER jobs_search_change

DROP TABLE jobs_search

DROP INDEX jobs_list

DROP INDEX jobs_stage_list

CREATE INDEX jobs_list ON jobs(next_date, number, stage, stops, opens, words)

CREATE INDEX jobs_stage_list ON jobs(stage, next_date, number, stops, opens, words)

CREATE VIRTUAL TABLE jobs_search USING fts5(words, content='jobs', content_rowid='rowid', prefix='2 3 4 5 6', detail=none, columnsize=0)

INSERT INTO jobs_search(jobs_search) VALUES ('rebuild')

CREATE TRIGGER jobs_search_new AFTER INSERT ON jobs BEGIN
  INSERT INTO jobs_search(rowid, words) VALUES (new.rowid, new.words); END

CREATE TRIGGER jobs_search_change AFTER UPDATE OF words ON jobs WHEN old.words IS NOT new.words BEGIN
  INSERT INTO jobs_search(jobs_search, rowid, words) VALUES ('delete', old.rowid, old.words);
  INSERT INTO jobs_search(rowid, words) VALUES (new.rowid, new.words); END

CREATE TRIGGER jobs_search_gone AFTER DELETE ON jobs BEGIN
  INSERT INTO jobs_search(jobs_search, rowid, words) VALUES ('delete', old.rowid, old.words); END

CREATE TABLE `job_counts` (
  `stage` text NOT NULL,
  `in_way` text NOT NULL,
  `n` integer NOT NULL,
  PRIMARY KEY (`stage`,`in_way`)
)

INSERT INTO job_counts (stage, in_way, n)
  SELECT COALESCE(stage, ''), CASE WHEN stops > 0 THEN 'stop' WHEN opens > 0 THEN 'open' ELSE 'nothing' END AS way, COUNT(*) FROM jobs GROUP BY 1, 2

CREATE TRIGGER job_counts_new AFTER INSERT ON jobs BEGIN
  INSERT INTO job_counts (stage, in_way, n)
    VALUES (COALESCE(new.stage, ''), CASE WHEN new.stops > 0 THEN 'stop' WHEN new.opens > 0 THEN 'open' ELSE 'nothing' END, 1)
    ON CONFLICT (stage, in_way) DO UPDATE SET n = n + 1; END

CREATE TRIGGER job_counts_gone AFTER DELETE ON jobs BEGIN
  UPDATE job_counts SET n = n - 1 WHERE stage = COALESCE(old.stage, '')
    AND in_way = CASE WHEN old.stops > 0 THEN 'stop' WHEN old.opens > 0 THEN 'open' ELSE 'nothing' END; END

CREATE TRIGGER job_counts_change AFTER UPDATE OF stage, stops, opens ON jobs
WHEN old.stage IS NOT new.stage OR old.stops IS NOT new.stops OR old.opens IS NOT new.opens BEGIN
  UPDATE job_counts SET n = n - 1 WHERE stage = COALESCE(old.stage, '')
    AND in_way = CASE WHEN old.stops > 0 THEN 'stop' WHEN old.opens > 0 THEN 'open' ELSE 'nothing' END;
  INSERT INTO job_counts (stage, in_way, n)
    VALUES (COALESCE(new.stage, ''), CASE WHEN new.stops > 0 THEN 'stop' WHEN new.opens > 0 THEN 'open' ELSE 'nothing' END, 1)
    ON CONFLICT (stage, in_way) DO UPDATE SET n = n + 1; END

CREATE TABLE `booked` (
  `name` text NOT NULL COLLATE NOCASE,
  `job_id` text NOT NULL,
  PRIMARY KEY (`name`,`job_id`)
) WITHOUT ROWID

CREATE INDEX booked_job ON booked(job_id)

INSERT INTO booked (name, job_id)
  SELECT MIN(value), job_id FROM bookings, json_each(CAST(people AS TEXT)) WHERE value IS NOT NULL GROUP BY job_id, value COLLATE NOCASE

CREATE TRIGGER booked_new AFTER INSERT ON bookings BEGIN
  INSERT INTO booked (name, job_id)
    SELECT MIN(value), new.job_id FROM json_each(CAST(new.people AS TEXT)) WHERE value IS NOT NULL GROUP BY value COLLATE NOCASE; END

CREATE TRIGGER booked_change AFTER UPDATE OF people, job_id ON bookings BEGIN
  DELETE FROM booked WHERE job_id = old.job_id;
  INSERT INTO booked (name, job_id)
    SELECT MIN(value), new.job_id FROM json_each(CAST(new.people AS TEXT)) WHERE value IS NOT NULL GROUP BY value COLLATE NOCASE; END

CREATE TRIGGER booked_gone AFTER DELETE ON bookings BEGIN DELETE FROM booked WHERE job_id = old.job_id; END
