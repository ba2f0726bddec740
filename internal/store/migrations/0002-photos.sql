-- Pictures of jobs; their bytes are files beside the database.

CREATE TABLE `photos` (
  `job_id` text,
  `digest` text,
  `width` integer,
  `height` integer,
  `bytes` integer,
  `by` text,
  `at` datetime,
  PRIMARY KEY (`job_id`,`digest`),
  CONSTRAINT `fk_photos_job` FOREIGN KEY (`job_id`) REFERENCES `jobs`(`id`) ON DELETE RESTRICT
)
