-- Jobs with their sections and log, people, records, the audit. Lists are sorted and
-- filtered within jobs_list and jobs_stage_list alone; the log, the records and the
-- audit only grow.

CREATE TABLE `users` (
  `id` text,
  `username` text NOT NULL,
  `name` text NOT NULL,
  `role` text NOT NULL,
  `hash` text NOT NULL,
  `disabled` numeric NOT NULL DEFAULT false,
  `created` datetime,
  PRIMARY KEY (`id`)
)

CREATE UNIQUE INDEX `idx_users_username` ON `users`(`username`)

CREATE TABLE `jobs` (
  `id` text,
  `number` text NOT NULL,
  `rulebook` text NOT NULL,
  `customer` text,
  `address` text,
  `town` text,
  `stage` text,
  `next_date` text,
  `next_what` text,
  `stops` integer,
  `watches` integer,
  `opens` integer,
  `blocker` text,
  `sealed` numeric,
  `amends` text,
  `reason` text,
  `created` datetime,
  `updated` datetime,
  PRIMARY KEY (`id`)
)

CREATE UNIQUE INDEX `idx_jobs_number` ON `jobs`(`number`)

CREATE TABLE `sections` (
  `job_id` text,
  `name` text,
  `revision` integer NOT NULL,
  `body` blob NOT NULL,
  `updated` datetime,
  `by` text,
  PRIMARY KEY (`job_id`,`name`),
  CONSTRAINT `fk_sections_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE TABLE `entries` (
  `seq` integer PRIMARY KEY AUTOINCREMENT,
  `id` text NOT NULL,
  `job_id` text NOT NULL,
  `at` datetime NOT NULL,
  `body` blob NOT NULL,
  `received` datetime NOT NULL,
  CONSTRAINT `fk_entries_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE INDEX `idx_entries_job` ON `entries`(`job_id`)

CREATE UNIQUE INDEX `idx_entries_id` ON `entries`(`id`)

CREATE TABLE `records` (
  `job_id` text,
  `issue` integer,
  `digest` text NOT NULL,
  `replaces` text,
  `sealed_at` datetime,
  `sealed_by` text,
  `file` blob,
  `inspection` blob,
  `handover` blob,
  PRIMARY KEY (`job_id`,`issue`),
  CONSTRAINT `fk_records_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE UNIQUE INDEX `idx_records_digest` ON `records`(`digest`)

CREATE TABLE `audits` (
  `id` integer PRIMARY KEY AUTOINCREMENT,
  `at` datetime NOT NULL,
  `who` text NOT NULL,
  `action` text NOT NULL,
  `job_id` text,
  `detail` text
)

CREATE INDEX `idx_audits_job_id` ON `audits`(`job_id`)

CREATE TABLE `sessions` (
  `token` text,
  `data` blob,
  `expiry` datetime,
  PRIMARY KEY (`token`)
)

CREATE INDEX `idx_sessions_expiry` ON `sessions`(`expiry`)

CREATE TABLE `settings` (
  `key` text,
  `value` blob,
  PRIMARY KEY (`key`)
)

CREATE INDEX jobs_list ON jobs(next_date, number, stage, stops, opens)

CREATE INDEX jobs_stage_list ON jobs(stage, next_date, number, stops, opens)

CREATE VIRTUAL TABLE jobs_search USING fts5(number, customer, address, town, content='jobs', content_rowid='rowid', prefix='2 3')

CREATE TRIGGER jobs_search_new AFTER INSERT ON jobs BEGIN
  INSERT INTO jobs_search(rowid, number, customer, address, town) VALUES (new.rowid, new.number, new.customer, new.address, new.town); END

CREATE TRIGGER jobs_search_change AFTER UPDATE OF number, customer, address, town ON jobs BEGIN
  INSERT INTO jobs_search(jobs_search, rowid, number, customer, address, town) VALUES ('delete', old.rowid, old.number, old.customer, old.address, old.town);
  INSERT INTO jobs_search(rowid, number, customer, address, town) VALUES (new.rowid, new.number, new.customer, new.address, new.town); END

CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END

CREATE TRIGGER entries_no_delete BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END

CREATE TRIGGER records_no_update BEFORE UPDATE ON records BEGIN SELECT RAISE(ABORT, 'a sealed record is never changed'); END

CREATE TRIGGER records_no_delete BEFORE DELETE ON records BEGIN SELECT RAISE(ABORT, 'a sealed record is never deleted'); END

CREATE TRIGGER audits_no_update BEFORE UPDATE ON audits BEGIN SELECT RAISE(ABORT, 'the audit is append-only'); END

CREATE TRIGGER audits_no_delete BEFORE DELETE ON audits BEGIN SELECT RAISE(ABORT, 'the audit is append-only'); END
