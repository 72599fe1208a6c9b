-- What a house that has worked for many years looks for: garments in hand and those handed over last, entries that were made one with
-- another, and the round a version came from.
ALTER TABLE orders ADD INDEX IF NOT EXISTS orders_finished (finished_at);
ALTER TABLE clients ADD INDEX IF NOT EXISTS clients_merged (merged_into);
ALTER TABLE rounds ADD INDEX IF NOT EXISTS rounds_made_version (made_version_id);
-- Where garments stand: the versions that count, each client's newest session, sessions that are still open.
ALTER TABLE pattern_versions ADD INDEX IF NOT EXISTS pattern_versions_standing (pattern_id, withdrawn_at, version);
ALTER TABLE sessions ADD INDEX IF NOT EXISTS sessions_client_standing (client_id, dropped_at);
ALTER TABLE sessions ADD INDEX IF NOT EXISTS sessions_open (order_id, closed_at, dropped_at);
ALTER TABLE sessions DROP INDEX IF EXISTS sessions_order;
-- The view client_texts stays for a server of the version before that still runs beside this one.
