-- The keys that the firm sealed with, by their public halves. The private one is a file
-- outside the database.

CREATE TABLE `sealing_keys` (
  `public` text,
  `certificate` text NOT NULL,
  `since` datetime NOT NULL,
  `by` text NOT NULL,
  `why` text NOT NULL,
  `endorsement` text NOT NULL DEFAULT '',
  PRIMARY KEY (`public`)
)
