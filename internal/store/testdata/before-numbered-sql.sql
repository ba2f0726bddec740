CREATE TABLE `migrations` (`id` text,PRIMARY KEY (`id`))

CREATE TABLE `users` (`id` text,`username` text NOT NULL,`name` text NOT NULL,`role` text NOT NULL,`hash` text NOT NULL,`disabled` numeric NOT NULL DEFAULT false,`created` datetime,PRIMARY KEY (`id`))

CREATE UNIQUE INDEX `idx_users_username` ON `users`(`username`)

CREATE TABLE `jobs` (`id` text,`number` text NOT NULL,`rulebook` text NOT NULL,`customer` text,`address` text,`town` text,`stage` text,`next_date` text,`next_what` text,`stops` integer,`watches` integer,`opens` integer,`blocker` text,`sealed` numeric,`amends` text,`reason` text,`created` datetime,`updated` datetime,PRIMARY KEY (`id`))

CREATE UNIQUE INDEX `idx_jobs_number` ON `jobs`(`number`)

CREATE TABLE `sections` (`job_id` text,`name` text,`revision` integer NOT NULL,`body` blob NOT NULL,`updated` datetime,`by` text,PRIMARY KEY (`job_id`,`name`),CONSTRAINT `fk_sections_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE TABLE `entries` (`seq` integer PRIMARY KEY AUTOINCREMENT,`id` text NOT NULL,`job_id` text NOT NULL,`at` datetime NOT NULL,`body` blob NOT NULL,`received` datetime NOT NULL,CONSTRAINT `fk_entries_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE INDEX `idx_entries_job` ON `entries`(`job_id`)

CREATE UNIQUE INDEX `idx_entries_id` ON `entries`(`id`)

CREATE TABLE `records` (`job_id` text,`issue` integer,`digest` text NOT NULL,`replaces` text,`sealed_at` datetime,`sealed_by` text,`file` blob,`inspection` blob,`handover` blob,PRIMARY KEY (`job_id`,`issue`),CONSTRAINT `fk_records_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE UNIQUE INDEX `idx_records_digest` ON `records`(`digest`)

CREATE TABLE `audits` (`id` integer PRIMARY KEY AUTOINCREMENT,`at` datetime NOT NULL,`who` text NOT NULL,`action` text NOT NULL,`job_id` text,`detail` text)

CREATE INDEX `idx_audits_job_id` ON `audits`(`job_id`)

CREATE TABLE `sessions` (`token` text,`data` blob,`expiry` datetime,PRIMARY KEY (`token`))

CREATE INDEX `idx_sessions_expiry` ON `sessions`(`expiry`)

CREATE TABLE `settings` (`key` text,`value` blob,PRIMARY KEY (`key`))

CREATE INDEX jobs_list ON jobs(next_date, number, stage, stops, opens)

CREATE INDEX jobs_stage_list ON jobs(stage, next_date, number, stops, opens)

CREATE VIRTUAL TABLE jobs_search USING fts5(number, customer, address, town, content='jobs', content_rowid='rowid', prefix='2 3')

CREATE TABLE `photos` (`job_id` text,`digest` text,`width` integer,`height` integer,`bytes` integer,`by` text,`at` datetime,`source` text NOT NULL DEFAULT "",PRIMARY KEY (`job_id`,`digest`),CONSTRAINT `fk_photos_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE TABLE `stock_items` (`id` text,`name` text NOT NULL,`unit` text,`place` text,`state` text NOT NULL,`reel` numeric NOT NULL DEFAULT false,`quantity` real NOT NULL,`supplier` text,`expected` text,PRIMARY KEY (`id`))

CREATE INDEX `idx_stock_items_name` ON `stock_items`(`name`)

CREATE TABLE `stock_holds` (`job_id` text,`item_id` text,`part` text,`quantity` real NOT NULL,PRIMARY KEY (`job_id`,`item_id`,`part`),CONSTRAINT `fk_stock_holds_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT,CONSTRAINT `fk_stock_holds_item` FOREIGN KEY (`item_id`) REFERENCES `stock_items`(`id`) ON DELETE RESTRICT)

CREATE INDEX `idx_stock_holds_item_id` ON `stock_holds`(`item_id`)

CREATE TABLE `bookings` (`job_id` text,`number` text,`team` text,`people` blob,`day` text,`start` text,`hours` real,`town` text,PRIMARY KEY (`job_id`),CONSTRAINT `fk_bookings_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE INDEX `idx_bookings_day` ON `bookings`(`day`)

CREATE TABLE `deadlines` (`job_id` text,`paper` text,`what` text,`title` text,`day` text,PRIMARY KEY (`job_id`,`paper`,`what`),CONSTRAINT `fk_deadlines_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE INDEX `idx_deadlines_day` ON `deadlines`(`day`)

CREATE TABLE `files` (`job_id` text,`digest` text,`name` text,`type` text,`width` integer,`height` integer,`pages` integer,`bytes` integer,`fault` text,`by` text,`at` datetime,PRIMARY KEY (`job_id`,`digest`),CONSTRAINT `fk_files_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE TABLE `mails` (`id` text,`job_id` text,`paper` text,`form` text,`to` text,`day` text,`asked` integer,`settled` numeric,PRIMARY KEY (`id`),CONSTRAINT `fk_mails_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT)

CREATE INDEX `idx_mails_job_id` ON `mails`(`job_id`)

CREATE TABLE `practice_runs` (`id` text,`person_id` text NOT NULL,`name` text,`case` text NOT NULL,`seed` integer,`tests` blob,`result` blob,`total` integer,`started` datetime,`finished` datetime,PRIMARY KEY (`id`))

CREATE INDEX `idx_practice_runs_person_id` ON `practice_runs`(`person_id`)

CREATE INDEX entries_near_misses ON entries(at) WHERE json_extract(CAST(body AS TEXT), '$.subject') = 'near-miss'

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

CREATE TRIGGER stock_holds_new BEFORE INSERT ON stock_holds
		WHEN (SELECT COALESCE(SUM(quantity), 0) FROM stock_holds WHERE item_id = new.item_id) + new.quantity
			> (SELECT quantity FROM stock_items WHERE id = new.item_id AND state = 'in-hand') + 0.000001
			OR NOT EXISTS (SELECT 1 FROM stock_items WHERE id = new.item_id AND state = 'in-hand')
		BEGIN SELECT RAISE(ABORT, 'held twice'); END

CREATE TRIGGER stock_holds_change BEFORE UPDATE ON stock_holds BEGIN SELECT RAISE(ABORT, 'a hold is freed and made anew'); END

CREATE TRIGGER stock_items_change BEFORE UPDATE ON stock_items
		WHEN (SELECT COALESCE(SUM(quantity), 0) FROM stock_holds WHERE item_id = new.id) > CASE new.state WHEN 'in-hand' THEN new.quantity + 0.000001 ELSE 0 END
		BEGIN SELECT RAISE(ABORT, 'less than is held'); END

INSERT INTO `migrations` VALUES ('0001-first')

INSERT INTO `migrations` VALUES ('0002-photos')

INSERT INTO `migrations` VALUES ('0003-planning')

INSERT INTO `migrations` VALUES ('0004-practice')

INSERT INTO `migrations` VALUES ('0005-near-misses')

INSERT INTO `migrations` VALUES ('0006-photo-sources')

INSERT INTO `users` VALUES ('u1', 'verifier', 'A. Nakagawa', 'verifier', 'x', 0, '2026-05-04 09:00:00+00:00')

INSERT INTO `jobs` VALUES ('j1', 'DB-0001', 'nec:2023', 'G. Ferreira', '41 Juniper Bend', 'Copper Flats', 'survey', '9999-12-31', '', 0, 0, 0, '', 0, '', '', '2026-05-04 09:00:00+00:00', '2026-05-04 09:00:00+00:00')

INSERT INTO `sections` VALUES ('j1', 'survey', 1, x'7b2276656869636c6573223a5b7b22696e6c6574223a22726f6f66227d5d2c22706c61636573223a5b7b22706f696e74223a2241227d5d7d', '2026-05-04 09:00:00+00:00', 'M. Farrant')

INSERT INTO `entries` VALUES (1, 'device-0001', 'j1', '2026-05-04 09:00:00+00:00', x'7b226964223a226465766963652d30303031222c226b696e64223a226e6f7465222c226174223a22323032362d30352d30345430393a30303a30305a222c22726561736f6e223a227468652070616e656c2069732066756c6c227d', '2026-05-04 09:00:00+00:00')

INSERT INTO `records` VALUES ('j1', 1, 'd1', '', '2026-05-04 09:00:00+00:00', 'A. Nakagawa', x'66', x'69', x'68')

INSERT INTO `audits` VALUES (1, '2026-05-04 09:00:00+00:00', 'A. Nakagawa', 'import job', 'j1', 'DB-0001')

INSERT INTO `settings` VALUES ('house', x'7b22736c656570486f757273223a337d')

INSERT INTO `settings` VALUES ('yard', x'7b227265656c4d617267696e223a347d')

INSERT INTO `settings` VALUES ('contractor', x'7b226e616d65223a225175696c6c20616e6420426561636f6e20456c656374726963616c227d')

INSERT INTO `photos` VALUES ('j1', '0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a0a', 10, 10, 100, 'M. Farrant', '2026-05-04 09:00:00+00:00', '0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b')

INSERT INTO `stock_items` VALUES ('w1', '6 AWG THWN-2 conductor', 'ft', 'shelf', 'in-hand', 0, 100, '', '')

INSERT INTO `stock_holds` VALUES ('j1', 'w1', '6 AWG THWN-2 conductor', 40)

INSERT INTO `bookings` VALUES ('j1', 'DB-0001', 'mesa', x'5b22522e2044656c6163726f6978225d', '2026-05-04', '09:00', 4, 'Copper Flats')

INSERT INTO `deadlines` VALUES ('j1', 'final', 'due', 'Final inspection', '2026-06-01')

INSERT INTO `files` VALUES ('j1', '0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c0c', 'quote.pdf', 'application/pdf', 0, 0, 0, 10, '', '', '2026-05-04 09:00:00+00:00')

INSERT INTO `mails` VALUES ('m1', 'j1', 'permit', 'x', 'a@b.example', '2026-05-01', 0, 0)

INSERT INTO `practice_runs` VALUES ('p1', 'u1', 'A. Nakagawa', 'us-1', 0, NULL, NULL, 0, '2026-05-04 09:00:00+00:00', NULL)

