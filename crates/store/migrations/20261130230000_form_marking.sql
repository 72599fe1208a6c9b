-- How a dress form is marked: its centre front by halving, the width of its tape, whether the bust is bridged.
ALTER TABLE forms ADD COLUMN IF NOT EXISTS marking JSON NOT NULL DEFAULT '{}';
