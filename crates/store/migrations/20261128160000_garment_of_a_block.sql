-- What a block's sizes are of: a skirt, or a bodice or dress. A card is a skirt's where it has a hip and no bust.
ALTER TABLE blocks ADD COLUMN IF NOT EXISTS garment VARCHAR(16) NOT NULL DEFAULT 'bodice' AFTER ease_set;
UPDATE blocks b JOIN block_sizes s ON s.block_id = b.id SET b.garment = 'skirt'
WHERE s.pattern LIKE '%"skirt\_front%' OR (s.card LIKE '%"hip"%' AND s.card NOT LIKE '%"bust"%');
