-- What an ordinary day asks for: entries that are put away and brought back, two entries of one woman made one, a
-- pattern begun anew beside the first, notes and photographs outside a round, lines drawn on photographs, and whom a
-- change concerns. Every step may run again.
ALTER TABLE clients
  ADD COLUMN IF NOT EXISTS archived_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS merged_into BIGINT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS merged JSON NULL;
ALTER TABLE orders
  ADD COLUMN IF NOT EXISTS put_away VARCHAR(10) NULL,
  ADD CONSTRAINT IF NOT EXISTS orders_put_away CHECK (put_away IN ('cancelled', 'archived'));
ALTER TABLE sessions
  ADD COLUMN IF NOT EXISTS dropped_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS dropped_why VARCHAR(200) NOT NULL DEFAULT '';
ALTER TABLE readings ADD COLUMN IF NOT EXISTS corrected_why VARCHAR(200) NOT NULL DEFAULT '';
ALTER TABLE observations ADD COLUMN IF NOT EXISTS removed_at DATETIME(3) NULL;
ALTER TABLE shelves ADD COLUMN IF NOT EXISTS removed_at DATETIME(3) NULL;
ALTER TABLE pattern_versions
  ADD COLUMN IF NOT EXISTS withdrawn_at DATETIME(3) NULL,
  ADD COLUMN IF NOT EXISTS withdrawn_why VARCHAR(200) NOT NULL DEFAULT '';
-- A garment has one pattern in hand; those it was begun with before are kept beside it.
ALTER TABLE patterns ADD COLUMN IF NOT EXISTS in_hand BOOLEAN NULL DEFAULT TRUE;
ALTER TABLE patterns
  ADD UNIQUE KEY IF NOT EXISTS patterns_in_hand (order_id, in_hand),
  DROP INDEX IF EXISTS patterns_order;
CREATE TABLE IF NOT EXISTS client_notes (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  words VARCHAR(2000) NOT NULL,
  written_by BIGINT UNSIGNED NOT NULL,
  written_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  removed_at DATETIME(3) NULL,
  CONSTRAINT client_notes_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE,
  CONSTRAINT client_notes_person FOREIGN KEY (written_by) REFERENCES people (id)
);
ALTER TABLE photographs
  MODIFY COLUMN round_id BIGINT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS note_id BIGINT UNSIGNED NULL AFTER round_id,
  ADD COLUMN IF NOT EXISTS strokes JSON NOT NULL DEFAULT '[]',
  ADD COLUMN IF NOT EXISTS removed_at DATETIME(3) NULL,
  ADD KEY IF NOT EXISTS photographs_note (note_id);
ALTER TABLE photographs
  ADD CONSTRAINT photographs_note FOREIGN KEY IF NOT EXISTS (note_id) REFERENCES client_notes (id) ON DELETE CASCADE,
  ADD CONSTRAINT IF NOT EXISTS photographs_place CHECK ((round_id IS NULL) <> (note_id IS NULL));
-- Everything a client is looked for by.
CREATE OR REPLACE VIEW client_texts AS
  SELECT c.id AS client_id, CONCAT_WS(' ', c.name, c.contact, c.notes,
    (SELECT GROUP_CONCAT(n.words SEPARATOR ' ') FROM client_notes n WHERE n.client_id = c.id AND n.removed_at IS NULL)) AS words
  FROM clients c;
-- Whom a change concerns, and for which garment: known when it is made, so that it is still known when the row is gone.
ALTER TABLE audit
  ADD COLUMN IF NOT EXISTS client_id BIGINT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS order_id BIGINT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS audit_client (client_id, id),
  ADD KEY IF NOT EXISTS audit_order (order_id, id);
UPDATE audit a JOIN clients c ON a.of_table = 'clients' AND c.id = a.of_id SET a.client_id = c.id;
UPDATE audit a JOIN consents c ON a.of_table = 'consents' AND c.id = a.of_id SET a.client_id = c.client_id;
UPDATE audit a JOIN blocks b ON a.of_table = 'blocks' AND b.id = a.of_id SET a.client_id = b.client_id;
UPDATE audit a JOIN sessions s ON a.of_table = 'sessions' AND s.id = a.of_id
  SET a.client_id = s.client_id, a.order_id = s.order_id;
UPDATE audit a JOIN readings r ON a.of_table = 'readings' AND r.id = a.of_id JOIN sessions s ON s.id = r.session_id
  SET a.client_id = s.client_id, a.order_id = s.order_id;
UPDATE audit a JOIN orders o ON a.of_table = 'orders' AND o.id = a.of_id
  SET a.client_id = o.client_id, a.order_id = o.id;
UPDATE audit a JOIN patterns p ON a.of_table = 'patterns' AND p.id = a.of_id JOIN orders o ON o.id = p.order_id
  SET a.client_id = o.client_id, a.order_id = o.id;
UPDATE audit a JOIN pattern_versions v ON a.of_table = 'pattern_versions' AND v.id = a.of_id
  JOIN patterns p ON p.id = v.pattern_id JOIN orders o ON o.id = p.order_id
  SET a.client_id = o.client_id, a.order_id = o.id;
UPDATE audit a JOIN rounds r ON a.of_table = 'rounds' AND r.id = a.of_id JOIN orders o ON o.id = r.order_id
  SET a.client_id = o.client_id, a.order_id = o.id;
UPDATE audit a JOIN observations b ON a.of_table = 'observations' AND b.id = a.of_id
  JOIN rounds r ON r.id = b.round_id JOIN orders o ON o.id = r.order_id
  SET a.client_id = o.client_id, a.order_id = o.id;
UPDATE audit a JOIN photographs f ON a.of_table = 'photographs' AND f.id = a.of_id
  JOIN rounds r ON r.id = f.round_id JOIN orders o ON o.id = r.order_id
  SET a.client_id = o.client_id, a.order_id = o.id;
