-- Tests that tell causes apart, made on the toile of a round: whether what the test says happened.
CREATE TABLE IF NOT EXISTS tests_made (
  round_id BIGINT UNSIGNED NOT NULL,
  cause VARCHAR(60) NOT NULL,
  holds BOOLEAN NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  PRIMARY KEY (round_id, cause),
  CONSTRAINT tests_made_round FOREIGN KEY (round_id) REFERENCES rounds (id) ON DELETE CASCADE,
  CONSTRAINT tests_made_person FOREIGN KEY (made_by) REFERENCES people (id)
);
