-- What the firm has settled and what it works with are named as the glossary names them.

UPDATE `settings` SET `key` = 'policy' WHERE `key` = 'house'

UPDATE `settings` SET `key` = 'resources' WHERE `key` = 'yard'
