-- A second factor of sign-in: the secret of time-based codes, the last one's step, and
-- digests of recovery codes.

ALTER TABLE `users` ADD COLUMN `totp` text NOT NULL DEFAULT ''

ALTER TABLE `users` ADD COLUMN `totp_step` integer NOT NULL DEFAULT 0

ALTER TABLE `users` ADD COLUMN `recovery` text NOT NULL DEFAULT ''
