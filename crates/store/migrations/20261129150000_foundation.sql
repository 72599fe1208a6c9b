-- What she wore under the tape: bust, waist and front lengths are read over it.
ALTER TABLE sessions ADD COLUMN IF NOT EXISTS foundation VARCHAR(120) NOT NULL DEFAULT '' AFTER unit;
