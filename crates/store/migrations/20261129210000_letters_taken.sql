-- A server takes a letter before it sends it. Databases of 0.5.0 were made without this. May run again.
ALTER TABLE letters ADD COLUMN IF NOT EXISTS taken_at DATETIME(3) NULL AFTER written_at;
