-- The house, its people and their sign-ins. One statement a table: a table change commits by itself.
CREATE TABLE IF NOT EXISTS people (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  email VARCHAR(254) NOT NULL,
  password_hash VARCHAR(255) NOT NULL,
  role VARCHAR(16) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY people_email (email),
  CONSTRAINT people_role CHECK (role IN ('owner', 'cutter', 'fitter', 'assistant', 'reader'))
);
CREATE TABLE IF NOT EXISTS sign_ins (
  token_hash BINARY(32) NOT NULL PRIMARY KEY,
  person_id BIGINT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  expires_at DATETIME(3) NOT NULL,
  CONSTRAINT sign_ins_person FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS sign_in_attempts (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  email VARCHAR(254) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  KEY sign_in_attempts_email (email, at)
);
CREATE TABLE IF NOT EXISTS house (
  id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  style JSON NOT NULL,
  ease_set VARCHAR(40) NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  CONSTRAINT house_single CHECK (id = 1)
);
CREATE TABLE IF NOT EXISTS audit (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  person_id BIGINT UNSIGNED NULL,
  what VARCHAR(60) NOT NULL,
  of_table VARCHAR(40) NOT NULL,
  of_id BIGINT UNSIGNED NOT NULL,
  KEY audit_of (of_table, of_id)
);
CREATE TABLE IF NOT EXISTS saved_once (
  idempotency_key CHAR(36) NOT NULL,
  person_id BIGINT UNSIGNED NOT NULL,
  of_table VARCHAR(40) NOT NULL,
  of_id BIGINT UNSIGNED NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (person_id, idempotency_key)
);
