-- The whole address of a customer's page, which the papers print as a code.

ALTER TABLE `customer_pages` ADD COLUMN `address` text NOT NULL DEFAULT ''
