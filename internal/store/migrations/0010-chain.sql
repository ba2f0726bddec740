-- The log and the records of a job are a chain. What was there before is linked in the
-- order that it came.

CREATE TABLE `chain` (
  `job_id` text,
  `n` integer,
  `prev` text NOT NULL,
  `kind` text NOT NULL,
  `ref` text NOT NULL,
  `content` text NOT NULL,
  `received` datetime NOT NULL,
  `digest` text NOT NULL,
  PRIMARY KEY (`job_id`,`n`)
)

CREATE TRIGGER chain_no_update BEFORE UPDATE ON chain BEGIN SELECT RAISE(ABORT, 'the chain only grows'); END

CREATE TRIGGER chain_no_delete BEFORE DELETE ON chain BEGIN SELECT RAISE(ABORT, 'the chain only grows'); END
