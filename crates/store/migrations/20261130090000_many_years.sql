-- What a house that has worked for many years looks for: garments in hand and those handed over last, entries that were made one with
-- another, and the round a version came from.
ALTER TABLE orders ADD INDEX IF NOT EXISTS orders_finished (finished_at);
ALTER TABLE clients ADD INDEX IF NOT EXISTS clients_merged (merged_into);
ALTER TABLE rounds ADD INDEX IF NOT EXISTS rounds_made_version (made_version_id);
-- A search reads names and notes each by themselves.
DROP VIEW IF EXISTS client_texts;
