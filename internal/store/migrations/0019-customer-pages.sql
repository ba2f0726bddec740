-- Pages of sealed records that need no account: whoever has the token may read.

CREATE TABLE `customer_pages` (
  `token` text,
  `job_id` text NOT NULL,
  `at` datetime NOT NULL,
  `by` text NOT NULL,
  PRIMARY KEY (`token`),
  CONSTRAINT `fk_customer_pages_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)

CREATE UNIQUE INDEX `idx_customer_pages_job_id` ON `customer_pages`(`job_id`)
