-- A second step at signing in, where somebody chooses it: the key that an app on their telephone and the house share, the latest moment
-- (a half minute of RFC 6238) whose code was used, and what is left of the codes on paper. May run again.
CREATE TABLE IF NOT EXISTS second_factors (
  person_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
  shared_key VARBINARY(64) NOT NULL,
  used_step BIGINT UNSIGNED NOT NULL,
  since DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT second_factors_person FOREIGN KEY (person_id) REFERENCES people (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS recovery_codes (
  person_id BIGINT UNSIGNED NOT NULL,
  code_hash BINARY(32) NOT NULL,
  PRIMARY KEY (person_id, code_hash),
  CONSTRAINT recovery_codes_factor FOREIGN KEY (person_id) REFERENCES second_factors (person_id) ON DELETE CASCADE
);
