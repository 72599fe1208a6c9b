-- Fitting rounds: what was seen, what was decided, what became of it.
CREATE TABLE IF NOT EXISTS rounds (
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
CREATE TABLE IF NOT EXISTS observations (
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
CREATE TABLE IF NOT EXISTS marks (
  observation_id BIGINT UNSIGNED NOT NULL,
  round_id BIGINT UNSIGNED NOT NULL,
  mark VARCHAR(8) NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (observation_id, round_id),
  CONSTRAINT marks_mark CHECK (mark IN ('gone', 'better', 'same', 'worse')),
  CONSTRAINT marks_observation FOREIGN KEY (observation_id) REFERENCES observations (id) ON DELETE CASCADE,
  CONSTRAINT marks_round FOREIGN KEY (round_id) REFERENCES rounds (id) ON DELETE CASCADE
);
