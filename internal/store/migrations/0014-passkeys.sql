-- Keys of devices that sign in without a password (WebAuthn). Only public halves.

CREATE TABLE `passkeys` (
  `id` text,
  `user_id` text NOT NULL,
  `name` text NOT NULL,
  `credential` text NOT NULL,
  `created` datetime NOT NULL,
  `used` datetime,
  PRIMARY KEY (`id`)
)

CREATE INDEX `idx_passkeys_user_id` ON `passkeys`(`user_id`)
