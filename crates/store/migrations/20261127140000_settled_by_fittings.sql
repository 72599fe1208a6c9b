-- Her own block keeps which of its dimensions a fitting settled, with reading and ease of that day. May run again.
ALTER TABLE block_sizes ADD COLUMN IF NOT EXISTS settled JSON NOT NULL DEFAULT '[]';
