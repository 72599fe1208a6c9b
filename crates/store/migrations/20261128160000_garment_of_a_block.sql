-- What a block's sizes are of: every block so far is a bodice's or a dress's.
ALTER TABLE blocks ADD COLUMN garment VARCHAR(16) NOT NULL DEFAULT 'bodice' AFTER ease_set;
