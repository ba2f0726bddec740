-- The paper that certifies new work, where the country has one.

ALTER TABLE `records` ADD COLUMN `certificate` blob

ALTER TABLE `records` ADD COLUMN `certified` numeric NOT NULL DEFAULT 0
