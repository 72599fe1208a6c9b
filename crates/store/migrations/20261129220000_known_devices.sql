-- Devices somebody signed in on: wrong passwords from elsewhere do not keep her waiting there. Attempts are counted in one row of
-- whoever or wherever they are of, so that many at once wait for each other; the table of single
-- attempts stays for a server of the version before that still runs beside this one. May run again.
CREATE TABLE IF NOT EXISTS known_devices (
  token_hash BINARY(32) NOT NULL,
  person_id BIGINT UNSIGNED NOT NULL,
  seen_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (token_hash, person_id),
  CONSTRAINT known_devices_person FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS attempts (
  made_by VARCHAR(300) NOT NULL PRIMARY KEY,
  failed INT NOT NULL DEFAULT 0,
  newest DATETIME(3) NOT NULL,
  KEY attempts_newest (newest)
);
