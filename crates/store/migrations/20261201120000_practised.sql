-- Exercises of the practice room that somebody has done: never of a client.
CREATE TABLE IF NOT EXISTS practised (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  person_id BIGINT UNSIGNED NOT NULL,
  kind VARCHAR(20) NOT NULL,
  difficulty VARCHAR(10) NOT NULL,
  seed BIGINT UNSIGNED NOT NULL,
  item VARCHAR(60) NOT NULL,
  score DOUBLE NOT NULL,
  mistakes JSON NOT NULL,
  done_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY practised_once (person_id, kind, difficulty, seed),
  CONSTRAINT practised_person FOREIGN KEY (person_id) REFERENCES people (id)
);
