-- Calendars that read our file know an entry by its house and its number, and whether it moved since. Every step may
-- run again.
CREATE TABLE IF NOT EXISTS house_identity (
  id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
  identity CHAR(36) NOT NULL,
  CONSTRAINT house_identity_single CHECK (id = 1)
);
INSERT IGNORE INTO house_identity (id, identity) VALUES (1, UUID());
ALTER TABLE visits ADD COLUMN IF NOT EXISTS moves INT UNSIGNED NOT NULL DEFAULT 0;
