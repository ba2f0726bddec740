-- Accounts have several roles, a mail address, one-time links and sessions of their own.

ALTER TABLE `users` ADD COLUMN `mail` text NOT NULL DEFAULT ''

CREATE TABLE `tickets` (
  `digest` text,
  `user_id` text NOT NULL,
  `expiry` datetime NOT NULL,
  PRIMARY KEY (`digest`)
)

CREATE INDEX `idx_tickets_user_id` ON `tickets`(`user_id`)

ALTER TABLE `sessions` ADD COLUMN `person_id` text NOT NULL DEFAULT ''

ALTER TABLE `sessions` ADD COLUMN `began` datetime

ALTER TABLE `sessions` ADD COLUMN `agent` text NOT NULL DEFAULT ''

CREATE INDEX `idx_sessions_person_id` ON `sessions`(`person_id`)

DELETE FROM `sessions`

UPDATE `users` SET `name` = `name` || ' (' || `username` || ')'
  WHERE EXISTS (SELECT 1 FROM `users` o WHERE lower(trim(o.`name`)) = lower(trim(`users`.`name`)) AND o.`rowid` < `users`.`rowid`)
