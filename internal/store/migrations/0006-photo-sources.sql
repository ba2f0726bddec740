-- Photos are named by the device that took them, before they are sent.

ALTER TABLE `photos` ADD COLUMN `source` text NOT NULL DEFAULT ''
