-- What the firm has settled is read with every request and seldom changes: its revision
-- says whether what was read before still stands.

CREATE TABLE `settings_revision` (
  `n` integer NOT NULL
)

INSERT INTO settings_revision (n) VALUES (1)

CREATE TRIGGER settings_revision_new AFTER INSERT ON settings BEGIN UPDATE settings_revision SET n = n + 1; END

CREATE TRIGGER settings_revision_change AFTER UPDATE ON settings BEGIN UPDATE settings_revision SET n = n + 1; END

CREATE TRIGGER settings_revision_gone AFTER DELETE ON settings BEGIN UPDATE settings_revision SET n = n + 1; END
