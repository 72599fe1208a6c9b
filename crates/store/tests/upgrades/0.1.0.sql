-- What 0.1.0 added to the schema, as it was released, and rows of a house of that day.
-- The house, its people and their sign-ins. One statement a table: a table change commits by itself.
CREATE TABLE people (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  email VARCHAR(254) NOT NULL,
  password_hash VARCHAR(255) NOT NULL,
  role VARCHAR(16) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY people_email (email),
  CONSTRAINT people_role CHECK (role IN ('owner', 'cutter', 'fitter', 'assistant', 'reader'))
);
CREATE TABLE sign_ins (
  token_hash BINARY(32) NOT NULL PRIMARY KEY,
  person_id BIGINT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  expires_at DATETIME(3) NOT NULL,
  CONSTRAINT sign_ins_person FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
CREATE TABLE sign_in_attempts (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  email VARCHAR(254) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  KEY sign_in_attempts_email (email, at)
);
CREATE TABLE house (
  id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  style JSON NOT NULL,
  ease_set VARCHAR(40) NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  CONSTRAINT house_single CHECK (id = 1)
);
CREATE TABLE audit (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  person_id BIGINT UNSIGNED NULL,
  what VARCHAR(60) NOT NULL,
  of_table VARCHAR(40) NOT NULL,
  of_id BIGINT UNSIGNED NOT NULL,
  KEY audit_of (of_table, of_id)
);
CREATE TABLE saved_once (
  idempotency_key CHAR(36) NOT NULL,
  person_id BIGINT UNSIGNED NOT NULL,
  of_table VARCHAR(40) NOT NULL,
  of_id BIGINT UNSIGNED NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (person_id, idempotency_key)
);
-- Clients, their consent, and what the tape said. A corrected reading keeps the old one.
CREATE TABLE clients (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  contact VARCHAR(254) NOT NULL,
  notes TEXT NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  KEY clients_name (name, id)
);
CREATE TABLE consents (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  given_on DATE NOT NULL,
  purpose VARCHAR(400) NOT NULL,
  review_on DATE NULL,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT consents_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
CREATE TABLE sessions (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  set_code VARCHAR(40) NOT NULL,
  unit VARCHAR(8) NOT NULL,
  measurer_id BIGINT UNSIGNED NOT NULL,
  started_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  closed_at DATETIME(3) NULL,
  CONSTRAINT sessions_unit CHECK (unit IN ('inch', 'cm', 'mm')),
  CONSTRAINT sessions_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE,
  CONSTRAINT sessions_measurer FOREIGN KEY (measurer_id) REFERENCES people (id)
);
CREATE TABLE readings (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  session_id BIGINT UNSIGNED NOT NULL,
  code VARCHAR(60) NOT NULL,
  mm DECIMAL(10, 5) NOT NULL,
  typed VARCHAR(40) NOT NULL,
  unit VARCHAR(8) NOT NULL,
  stands VARCHAR(12) NULL,
  replaced_by BIGINT UNSIGNED NULL,
  taken_by BIGINT UNSIGNED NOT NULL,
  taken_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  KEY readings_current (session_id, replaced_by, code),
  CONSTRAINT readings_mm CHECK (mm >= 0 AND mm <= 3000),
  CONSTRAINT readings_session FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE,
  CONSTRAINT readings_person FOREIGN KEY (taken_by) REFERENCES people (id)
);
CREATE TABLE skipped_readings (
  session_id BIGINT UNSIGNED NOT NULL,
  code VARCHAR(60) NOT NULL,
  reason VARCHAR(200) NOT NULL,
  PRIMARY KEY (session_id, code),
  CONSTRAINT skipped_session FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE
);
-- Blocks are never updated: a correction is a new version. A pattern is a frozen block and a recipe.
CREATE TABLE blocks (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  client_id BIGINT UNSIGNED NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  method JSON NOT NULL,
  ease_set VARCHAR(40) NOT NULL,
  why VARCHAR(400) NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT blocks_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE,
  CONSTRAINT blocks_person FOREIGN KEY (made_by) REFERENCES people (id)
);
CREATE TABLE block_sizes (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  block_id BIGINT UNSIGNED NOT NULL,
  place INT UNSIGNED NOT NULL,
  label VARCHAR(40) NOT NULL,
  figure JSON NOT NULL,
  pattern JSON NOT NULL,
  UNIQUE KEY block_sizes_label (block_id, label),
  CONSTRAINT block_sizes_block FOREIGN KEY (block_id) REFERENCES blocks (id) ON DELETE CASCADE
);
CREATE TABLE orders (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  garment VARCHAR(120) NOT NULL,
  set_code VARCHAR(40) NOT NULL,
  wanted_on DATE NULL,
  finished_at DATETIME(3) NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT orders_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
CREATE TABLE patterns (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  block_id BIGINT UNSIGNED NOT NULL,
  block_name VARCHAR(200) NOT NULL,
  block JSON NOT NULL,
  recipe JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY patterns_order (order_id),
  CONSTRAINT patterns_order FOREIGN KEY (order_id) REFERENCES orders (id) ON DELETE CASCADE
);
CREATE TABLE pattern_versions (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  pattern_id BIGINT UNSIGNED NOT NULL,
  version INT UNSIGNED NOT NULL,
  recipe JSON NOT NULL,
  pattern JSON NOT NULL,
  why VARCHAR(400) NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY pattern_versions_version (pattern_id, version),
  CONSTRAINT pattern_versions_pattern FOREIGN KEY (pattern_id) REFERENCES patterns (id) ON DELETE CASCADE,
  CONSTRAINT pattern_versions_person FOREIGN KEY (made_by) REFERENCES people (id)
);
-- Fitting rounds: what was seen, what was decided, what became of it.
CREATE TABLE rounds (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  number INT UNSIGNED NOT NULL,
  version_id BIGINT UNSIGNED NOT NULL,
  worn VARCHAR(400) NOT NULL,
  comfort VARCHAR(1000) NOT NULL DEFAULT '',
  opened_by BIGINT UNSIGNED NOT NULL,
  opened_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  closed_at DATETIME(3) NULL,
  made_version_id BIGINT UNSIGNED NULL,
  UNIQUE KEY rounds_number (order_id, number),
  CONSTRAINT rounds_order FOREIGN KEY (order_id) REFERENCES orders (id) ON DELETE CASCADE,
  CONSTRAINT rounds_version FOREIGN KEY (version_id) REFERENCES pattern_versions (id) ON DELETE CASCADE,
  CONSTRAINT rounds_person FOREIGN KEY (opened_by) REFERENCES people (id)
);
CREATE TABLE observations (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  round_id BIGINT UNSIGNED NOT NULL,
  seen JSON NOT NULL,
  decision JSON NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT observations_round FOREIGN KEY (round_id) REFERENCES rounds (id) ON DELETE CASCADE,
  CONSTRAINT observations_person FOREIGN KEY (made_by) REFERENCES people (id)
);
CREATE TABLE marks (
  observation_id BIGINT UNSIGNED NOT NULL,
  round_id BIGINT UNSIGNED NOT NULL,
  mark VARCHAR(8) NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (observation_id, round_id),
  CONSTRAINT marks_mark CHECK (mark IN ('gone', 'better', 'same', 'worse')),
  CONSTRAINT marks_observation FOREIGN KEY (observation_id) REFERENCES observations (id) ON DELETE CASCADE,
  CONSTRAINT marks_round FOREIGN KEY (round_id) REFERENCES rounds (id) ON DELETE CASCADE
);
-- The migrations that were done, as SQLx kept them.
CREATE TABLE _sqlx_migrations (version BIGINT PRIMARY KEY, description TEXT NOT NULL, installed_on TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP,
  success BOOLEAN NOT NULL, checksum BLOB NOT NULL, execution_time BIGINT NOT NULL);
INSERT INTO _sqlx_migrations (version, description, success, checksum, execution_time) VALUES
  (20261123090000, 'house and people', TRUE, '', 1),
  (20261123090100, 'clients and readings', TRUE, '', 1),
  (20261123090200, 'blocks and patterns', TRUE, '', 1),
  (20261123090300, 'fitting', TRUE, '', 1);
-- Rows. All invented.
INSERT INTO people (id, name, email, password_hash, role) VALUES
  (1, 'Marit Aune', 'marit@house.example', 'not a hash', 'owner'), (2, 'Jonna Lie', 'jonna@house.example', 'not a hash', 'fitter');
INSERT INTO sign_ins (token_hash, person_id, expires_at) VALUES (UNHEX(SHA2('one', 256)), 1, '2030-01-01'), (UNHEX(SHA2('two', 256)), 1, '2030-01-01');
INSERT INTO sign_in_attempts (email) VALUES ('marit@house.example');
INSERT INTO house (id, name, style, ease_set) VALUES (1, 'Aune', '{"unit":"inch","denominator":8}', 'standard');
INSERT INTO clients (id, name, contact, notes) VALUES (1, 'Kirsten Bloom', 'kirsten@player.example', 'Viola.'), (2, 'Tove Rask', '', '');
INSERT INTO consents (client_id, given_on, purpose, review_on) VALUES (1, '2026-11-20', 'Measuring', '2028-11-20');
INSERT INTO sessions (id, client_id, set_code, unit, measurer_id, closed_at) VALUES
  (1, 1, 'bodice_direct', 'inch', 1, '2026-11-21'), (2, 1, 'bodice_direct', 'inch', 2, NULL);
INSERT INTO readings (session_id, code, mm, typed, unit, taken_by) VALUES
  (1, 'bust_girth', 939.80000, '37', 'inch', 1), (1, 'waist_girth', 736.60000, '29', 'inch', 1), (2, 'bust_girth', 942.97500, '37 1/8', 'inch', 2);
INSERT INTO skipped_readings (session_id, code, reason) VALUES (2, 'hip_girth', 'She was in a hurry.');
INSERT INTO audit (id, person_id, what, of_table, of_id) VALUES
  (1, 1, 'added', 'clients', 1), (2, 1, 'closed', 'sessions', 1), (3, 1, 'taken', 'orders', 1);
INSERT INTO saved_once (idempotency_key, person_id, of_table, of_id) VALUES ('0b0c9a4e-6a0f-4a53-9f11-2d2b1f0f5c11', 1, 'clients', 1);
INSERT INTO blocks (id, name, client_id, method, ease_set, why, made_by) VALUES (1, 'Bodice', NULL, '{"kind":"direct"}', 'standard', 'Trial.', 1);
INSERT INTO block_sizes (id, block_id, place, label, figure, pattern) VALUES (1, 1, 0, '12', '{"bust_girth":939.8}', '{"pieces":[]}');
INSERT INTO orders (id, client_id, garment, set_code, wanted_on) VALUES (1, 1, 'Blouse', 'bodice_direct', '2027-02-01'), (2, 2, 'Skirt', 'skirt', NULL);
INSERT INTO patterns (id, order_id, block_id, block_name, block, recipe) VALUES (1, 1, 1, 'Bodice, size 12, version 1', '{"pieces":[]}', '{"steps":[]}');
INSERT INTO pattern_versions (id, pattern_id, version, recipe, pattern, why, made_by) VALUES (1, 1, 1, '{"steps":[]}', '{"pieces":[]}', 'First toile.', 1);
INSERT INTO rounds (id, order_id, number, version_id, worn, opened_by) VALUES (1, 1, 1, 1, 'Her bra', 1), (2, 1, 2, 1, '', 2);
INSERT INTO observations (id, round_id, seen, made_by) VALUES (1, 1, '{"sign":"folds"}', 1);
INSERT INTO marks (observation_id, round_id, mark) VALUES (1, 2, 'better');
