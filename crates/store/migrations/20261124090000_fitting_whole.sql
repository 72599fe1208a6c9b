-- The fitting room whole: rounds, their lines and photographs, dates, letters, what a client may read.
-- Every step may run again.
ALTER TABLE rounds
  ADD COLUMN IF NOT EXISTS stage VARCHAR(16) NOT NULL DEFAULT 'toile' AFTER number,
  ADD COLUMN IF NOT EXISTS postures JSON NOT NULL DEFAULT '[]',
  ADD COLUMN IF NOT EXISTS pins_out INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS pins_back INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS changes INT UNSIGNED NOT NULL DEFAULT 0,
  ADD CONSTRAINT IF NOT EXISTS rounds_stage CHECK (stage IN ('toile', 'cloth', 'final'));
ALTER TABLE observations ADD COLUMN IF NOT EXISTS seen_at DATETIME(3) NULL;
ALTER TABLE marks
  DROP CONSTRAINT IF EXISTS marks_mark,
  ADD CONSTRAINT marks_mark CHECK (mark IN ('gone', 'better', 'same', 'worse', 'moved')),
  ADD COLUMN IF NOT EXISTS per_half DECIMAL(9, 4) NULL;
CREATE TABLE IF NOT EXISTS balance_lines (
  round_id BIGINT UNSIGNED NOT NULL,
  line VARCHAR(8) NOT NULL,
  heights JSON NOT NULL,
  caught JSON NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (round_id, line),
  CONSTRAINT balance_lines_line CHECK (line IN ('bust', 'waist', 'hip', 'hem')),
  CONSTRAINT balance_lines_round FOREIGN KEY (round_id) REFERENCES rounds (id) ON DELETE CASCADE,
  CONSTRAINT balance_lines_person FOREIGN KEY (made_by) REFERENCES people (id)
);
CREATE TABLE IF NOT EXISTS photographs (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  round_id BIGINT UNSIGNED NOT NULL,
  observation_id BIGINT UNSIGNED NULL,
  image MEDIUMBLOB NOT NULL,
  width INT UNSIGNED NOT NULL,
  height INT UNSIGNED NOT NULL,
  taken_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  made_by BIGINT UNSIGNED NOT NULL,
  KEY photographs_of (round_id, id),
  CONSTRAINT photographs_round FOREIGN KEY (round_id) REFERENCES rounds (id) ON DELETE CASCADE,
  CONSTRAINT photographs_observation FOREIGN KEY (observation_id) REFERENCES observations (id) ON DELETE SET NULL,
  CONSTRAINT photographs_person FOREIGN KEY (made_by) REFERENCES people (id)
);
ALTER TABLE house
  ADD COLUMN IF NOT EXISTS calendar JSON NOT NULL DEFAULT '{}',
  ADD COLUMN IF NOT EXISTS shows_stories BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE orders ADD COLUMN IF NOT EXISTS toiles INT UNSIGNED NOT NULL DEFAULT 2 AFTER wanted_on;
CREATE TABLE IF NOT EXISTS visits (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  kind VARCHAR(16) NOT NULL,
  number INT UNSIGNED NOT NULL DEFAULT 1,
  on_day DATE NOT NULL,
  settled BOOLEAN NOT NULL DEFAULT FALSE,
  KEY visits_day (on_day),
  UNIQUE KEY visits_visit (order_id, kind, number),
  CONSTRAINT visits_kind CHECK (kind IN ('measuring', 'cutting', 'toile', 'cloth_fitting', 'final_fitting', 'delivery')),
  CONSTRAINT visits_order FOREIGN KEY (order_id) REFERENCES orders (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS away_days (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  from_day DATE NOT NULL,
  to_day DATE NOT NULL,
  why VARCHAR(200) NOT NULL DEFAULT '',
  CONSTRAINT away_days_order CHECK (from_day <= to_day),
  UNIQUE KEY away_days_days (client_id, from_day, to_day),
  CONSTRAINT away_days_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS letters (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  visit_id BIGINT UNSIGNED NOT NULL,
  on_day DATE NOT NULL,
  to_name VARCHAR(120) NOT NULL,
  to_address VARCHAR(254) NOT NULL,
  subject VARCHAR(200) NOT NULL,
  body TEXT NOT NULL,
  written_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  taken_at DATETIME(3) NULL,
  sent_at DATETIME(3) NULL,
  failed VARCHAR(400) NOT NULL DEFAULT '',
  UNIQUE KEY letters_once (visit_id, on_day),
  CONSTRAINT letters_visit FOREIGN KEY (visit_id) REFERENCES visits (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS story_links (
  token_hash BINARY(32) NOT NULL PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  expires_at DATETIME(3) NOT NULL,
  CONSTRAINT story_links_order FOREIGN KEY (order_id) REFERENCES orders (id) ON DELETE CASCADE,
  CONSTRAINT story_links_person FOREIGN KEY (made_by) REFERENCES people (id)
);
