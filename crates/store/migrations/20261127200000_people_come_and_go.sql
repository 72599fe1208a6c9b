-- People leave, and come in by a link of their own; a sign-in can be told from another and ended. May run again.
ALTER TABLE people
  ADD COLUMN IF NOT EXISTS left_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS revision INT UNSIGNED NOT NULL DEFAULT 1;
ALTER TABLE sign_ins
  ADD COLUMN IF NOT EXISTS id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT UNIQUE KEY,
  ADD COLUMN IF NOT EXISTS device VARCHAR(120) NOT NULL DEFAULT '';
CREATE TABLE IF NOT EXISTS entry_links (
  token_hash BINARY(32) NOT NULL PRIMARY KEY,
  person_id BIGINT UNSIGNED NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  CONSTRAINT entry_links_person FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
