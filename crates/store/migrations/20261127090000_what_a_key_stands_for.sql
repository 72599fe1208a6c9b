-- A key answers only for the endpoint and the body it was made for; keys are forgotten after some days.
ALTER TABLE saved_once
  ADD COLUMN IF NOT EXISTS fingerprint BINARY(32) NULL,
  ADD INDEX IF NOT EXISTS saved_once_at (at);
ALTER TABLE sign_in_attempts
  ADD INDEX IF NOT EXISTS sign_in_attempts_at (at);
