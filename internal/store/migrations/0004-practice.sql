-- Runs of practice cases.

CREATE TABLE `practice_runs` (
  `id` text,
  `person_id` text NOT NULL,
  `name` text,
  `case` text NOT NULL,
  `seed` integer,
  `tests` blob,
  `result` blob,
  `total` integer,
  `started` datetime,
  `finished` datetime,
  PRIMARY KEY (`id`)
)

CREATE INDEX `idx_practice_runs_person_id` ON `practice_runs`(`person_id`)
