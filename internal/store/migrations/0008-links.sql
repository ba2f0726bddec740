-- What devices without signal brought, link by link.

CREATE TABLE `links` (
  `link` text,
  `person_id` text NOT NULL,
  `at` datetime NOT NULL,
  `received` datetime NOT NULL,
  PRIMARY KEY (`link`)
)
