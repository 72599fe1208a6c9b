-- What 0.2.0 added to the schema, as it was released, and rows of a house of that day.
-- Sides, schools and notes of readings; house sets; forms; tapes; imports. Every step may run again.
ALTER TABLE readings
  ADD COLUMN IF NOT EXISTS side VARCHAR(5) NOT NULL DEFAULT 'both',
  ADD COLUMN IF NOT EXISTS taken JSON NOT NULL DEFAULT '{}',
  ADD COLUMN IF NOT EXISTS note VARCHAR(200) NOT NULL DEFAULT '',
  DROP CONSTRAINT IF EXISTS readings_mm,
  ADD CONSTRAINT IF NOT EXISTS readings_mm_range CHECK (mm >= 0 AND mm <= 3048),
  ADD CONSTRAINT IF NOT EXISTS readings_side CHECK (side IN ('both', 'left', 'right'));
ALTER TABLE sessions
  ADD COLUMN IF NOT EXISTS set_name VARCHAR(120) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS codes JSON NULL,
  ADD COLUMN IF NOT EXISTS signed VARCHAR(120) NULL,
  ADD COLUMN IF NOT EXISTS changes INT UNSIGNED NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS import_id BIGINT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS sessions_client_time (client_id, started_at),
  ADD KEY IF NOT EXISTS sessions_import (import_id);
ALTER TABLE clients
  ADD COLUMN IF NOT EXISTS posture JSON NOT NULL DEFAULT '[]',
  ADD COLUMN IF NOT EXISTS changing BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN IF NOT EXISTS import_id BIGINT UNSIGNED NULL;
ALTER TABLE house ADD COLUMN IF NOT EXISTS measuring JSON NOT NULL DEFAULT '{}';
CREATE TABLE IF NOT EXISTS measurement_sets (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  codes JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  UNIQUE KEY measurement_sets_name (name)
);
CREATE TABLE IF NOT EXISTS forms (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  figures JSON NOT NULL,
  levels JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1
);
CREATE TABLE IF NOT EXISTS tapes (
  session_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
  token_hash BINARY(32) NOT NULL,
  seq INT UNSIGNED NOT NULL DEFAULT 0,
  typed VARCHAR(40) NOT NULL DEFAULT '',
  unit VARCHAR(8) NOT NULL DEFAULT 'inch',
  held_seq INT UNSIGNED NOT NULL DEFAULT 0,
  said_at DATETIME(3) NULL,
  UNIQUE KEY tapes_token (token_hash),
  CONSTRAINT tapes_session FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS imports (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  file_name VARCHAR(200) NOT NULL,
  content LONGTEXT NOT NULL,
  state VARCHAR(10) NOT NULL DEFAULT 'preview',
  total INT UNSIGNED NOT NULL DEFAULT 0,
  done INT UNSIGNED NOT NULL DEFAULT 0,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT imports_state CHECK (state IN ('preview', 'running', 'stopping', 'done', 'cancelled', 'failed')),
  CONSTRAINT imports_person FOREIGN KEY (made_by) REFERENCES people (id)
);
CREATE TABLE IF NOT EXISTS import_mappings (
  header_hash BINARY(32) NOT NULL PRIMARY KEY,
  mapping JSON NOT NULL
);
-- What was ever measured of a client: lets her newest figures be found without reading all of them.
CREATE TABLE IF NOT EXISTS measured_pairs (
  client_id BIGINT UNSIGNED NOT NULL,
  code VARCHAR(60) NOT NULL,
  side VARCHAR(5) NOT NULL,
  PRIMARY KEY (client_id, code, side),
  CONSTRAINT measured_pairs_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
INSERT IGNORE INTO measured_pairs (client_id, code, side)
SELECT DISTINCT s.client_id, r.code, r.side FROM readings r JOIN sessions s ON s.id = r.session_id;
-- The migrations that were done, as SQLx kept them.
INSERT INTO _sqlx_migrations (version, description, success, checksum, execution_time) VALUES
  (20261123150000, 'measuring whole', TRUE, '', 1),
  (20261123160000, 'measured pairs', TRUE, '', 1);
-- Rows. All invented.
UPDATE house SET measuring = '{"finger_mm":12.5,"cup_over_mm":25}';
INSERT INTO readings (session_id, code, mm, typed, unit, taken_by, side, taken) VALUES (2, 'shoulder_length', 127.00000, '5', 'inch', 2, 'left', '{"over":"bra"}');
INSERT INTO measured_pairs (client_id, code, side) VALUES (1, 'shoulder_length', 'left');
INSERT INTO measurement_sets (name, codes) VALUES ('Blouse', '["bust_girth","waist_girth"]');
INSERT INTO forms (name, figures, levels) VALUES ('Form by the window', '{"bust_girth":920}', '{}');
INSERT INTO tapes (session_id, token_hash) VALUES (2, UNHEX(SHA2('tape', 256)));
INSERT INTO imports (file_name, content, state, total, made_by) VALUES ('card.csv', 'name,bust', 'preview', 1, 1);
INSERT INTO import_mappings (header_hash, mapping) VALUES (UNHEX(SHA2('name,bust', 256)), '{}');
