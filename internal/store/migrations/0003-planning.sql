-- Stock, bookings, deadlines, files and mails. Held quantities stay within what is
-- there; the small allowance is for lengths that were converted from feet. Days that
-- were set before there were bookings are the whole day, until the job is booked again.

CREATE TABLE `stock_items` (
  `id` text,
  `name` text NOT NULL,
  `unit` text,
  `place` text,
  `state` text NOT NULL,
  `reel` numeric NOT NULL DEFAULT false,
  `quantity` real NOT NULL,
  `supplier` text,
  `expected` text,
  PRIMARY KEY (`id`)
)

CREATE INDEX `idx_stock_items_name` ON `stock_items`(`name`)

CREATE TABLE `stock_holds` (
  `job_id` text,
  `item_id` text,
  `part` text,
  `quantity` real NOT NULL,
  PRIMARY KEY (`job_id`,`item_id`,`part`),
  CONSTRAINT `fk_stock_holds_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT,
  CONSTRAINT `fk_stock_holds_item` FOREIGN KEY (`item_id`) REFERENCES `stock_items`(`id`) ON DELETE RESTRICT
)

CREATE INDEX `idx_stock_holds_item_id` ON `stock_holds`(`item_id`)

CREATE TABLE `bookings` (
  `job_id` text,
  `number` text,
  `team` text,
  `people` blob,
  `day` text,
  `start` text,
  `hours` real,
  `town` text,
  PRIMARY KEY (`job_id`),
  CONSTRAINT `fk_bookings_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE INDEX `idx_bookings_day` ON `bookings`(`day`)

CREATE TABLE `deadlines` (
  `job_id` text,
  `paper` text,
  `what` text,
  `title` text,
  `day` text,
  PRIMARY KEY (`job_id`,`paper`,`what`),
  CONSTRAINT `fk_deadlines_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE INDEX `idx_deadlines_day` ON `deadlines`(`day`)

CREATE TABLE `files` (
  `job_id` text,
  `digest` text,
  `name` text,
  `type` text,
  `width` integer,
  `height` integer,
  `pages` integer,
  `bytes` integer,
  `fault` text,
  `by` text,
  `at` datetime,
  PRIMARY KEY (`job_id`,`digest`),
  CONSTRAINT `fk_files_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE TABLE `mails` (
  `id` text,
  `job_id` text,
  `paper` text,
  `form` text,
  `to` text,
  `day` text,
  `asked` integer,
  `settled` numeric,
  PRIMARY KEY (`id`),
  CONSTRAINT `fk_mails_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE INDEX `idx_mails_job_id` ON `mails`(`job_id`)

CREATE TRIGGER stock_holds_new BEFORE INSERT ON stock_holds
  WHEN (SELECT COALESCE(SUM(quantity), 0) FROM stock_holds WHERE item_id = new.item_id) + new.quantity
  	> (SELECT quantity FROM stock_items WHERE id = new.item_id AND state = 'in-hand') + 0.000001
  	OR NOT EXISTS (SELECT 1 FROM stock_items WHERE id = new.item_id AND state = 'in-hand')
  BEGIN SELECT RAISE(ABORT, 'held twice'); END

CREATE TRIGGER stock_holds_change BEFORE UPDATE ON stock_holds BEGIN SELECT RAISE(ABORT, 'a hold is freed and made anew'); END

CREATE TRIGGER stock_items_change BEFORE UPDATE ON stock_items
  WHEN (SELECT COALESCE(SUM(quantity), 0) FROM stock_holds WHERE item_id = new.id) > CASE new.state WHEN 'in-hand' THEN new.quantity + 0.000001 ELSE 0 END
  BEGIN SELECT RAISE(ABORT, 'less than is held'); END

INSERT INTO bookings(job_id, number, team, people, day, start, hours, town)
  SELECT j.id, j.number, '', CAST(json_extract(CAST(s.body AS TEXT), '$.crew') AS BLOB), json_extract(CAST(s.body AS TEXT), '$.day'), '08:00', 8, j.town
  FROM sections s JOIN jobs j ON j.id = s.job_id WHERE s.name = 'plan' AND json_extract(CAST(s.body AS TEXT), '$.day') <> ''
  AND json_array_length(CAST(s.body AS TEXT), '$.crew') > 0
