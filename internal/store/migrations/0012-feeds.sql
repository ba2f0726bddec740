-- Everybody has their own address of the calendars. The firm's one, which nobody could take
-- back, is dead.

ALTER TABLE `users` ADD COLUMN `feed` text NOT NULL DEFAULT ''

DELETE FROM `settings` WHERE `key` = 'feed-token'
