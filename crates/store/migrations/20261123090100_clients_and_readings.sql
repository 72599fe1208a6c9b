-- Clients, their consent, and what the tape said. A corrected reading keeps the old one.
CREATE TABLE IF NOT EXISTS clients (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  contact VARCHAR(254) NOT NULL,
  notes TEXT NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  KEY clients_name (name, id)
);
CREATE TABLE IF NOT EXISTS consents (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  given_on DATE NOT NULL,
  purpose VARCHAR(400) NOT NULL,
  review_on DATE NULL,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT consents_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS sessions (
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
CREATE TABLE IF NOT EXISTS readings (
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
CREATE TABLE IF NOT EXISTS skipped_readings (
  session_id BIGINT UNSIGNED NOT NULL,
  code VARCHAR(60) NOT NULL,
  reason VARCHAR(200) NOT NULL,
  PRIMARY KEY (session_id, code),
  CONSTRAINT skipped_session FOREIGN KEY (session_id) REFERENCES sessions (id) ON DELETE CASCADE
);
