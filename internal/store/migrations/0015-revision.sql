-- The revision of a job rises with whatever is written about it: what was put together
-- from the database before is good as long as it stands. The index of words is written
-- where a word changes, not with every entry.

ALTER TABLE `jobs` ADD COLUMN `revision` integer NOT NULL DEFAULT 0

CREATE TRIGGER jobs_revision AFTER UPDATE OF number, rulebook, sealed, amends, reason ON jobs
WHEN old.number IS NOT new.number OR old.rulebook IS NOT new.rulebook OR old.sealed IS NOT new.sealed OR old.amends IS NOT new.amends OR old.reason IS NOT new.reason BEGIN
  UPDATE jobs SET revision = revision + 1 WHERE id = new.id; END

CREATE TRIGGER entries_revision AFTER INSERT ON entries BEGIN
  UPDATE jobs SET revision = revision + 1 WHERE id = new.job_id; END

CREATE TRIGGER sections_revision_new AFTER INSERT ON sections BEGIN
  UPDATE jobs SET revision = revision + 1 WHERE id = new.job_id; END

CREATE TRIGGER sections_revision_change AFTER UPDATE ON sections BEGIN
  UPDATE jobs SET revision = revision + 1 WHERE id = new.job_id; END

CREATE TRIGGER sections_revision_gone AFTER DELETE ON sections BEGIN
  UPDATE jobs SET revision = revision + 1 WHERE id = old.job_id; END

CREATE TRIGGER records_revision AFTER INSERT ON records BEGIN
  UPDATE jobs SET revision = revision + 1 WHERE id = new.job_id; END

DROP TRIGGER jobs_search_change

CREATE TRIGGER jobs_search_change AFTER UPDATE OF number, customer, address, town ON jobs
WHEN old.number IS NOT new.number OR old.customer IS NOT new.customer OR old.address IS NOT new.address OR old.town IS NOT new.town BEGIN
  INSERT INTO jobs_search(jobs_search, rowid, number, customer, address, town) VALUES ('delete', old.rowid, old.number, old.customer, old.address, old.town);
  INSERT INTO jobs_search(rowid, number, customer, address, town) VALUES (new.rowid, new.number, new.customer, new.address, new.town); END
