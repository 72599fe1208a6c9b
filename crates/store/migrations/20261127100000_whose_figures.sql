-- A garment keeps the set it is measured with; a session belongs to the garment it was begun for. Consent can be
-- withdrawn. An import keeps who its names are, and is given up where its server went away. Every step may run again.
ALTER TABLE orders
  ADD COLUMN IF NOT EXISTS set_name VARCHAR(120) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS set_codes JSON NULL;
ALTER TABLE sessions
  ADD COLUMN IF NOT EXISTS order_id BIGINT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS sessions_order (order_id);
UPDATE sessions s SET s.order_id =
    (SELECT MAX(o.id) FROM orders o WHERE o.client_id = s.client_id AND o.finished_at IS NULL)
  WHERE s.closed_at IS NULL AND s.order_id IS NULL;
ALTER TABLE consents ADD COLUMN IF NOT EXISTS withdrawn_on DATE NULL;
ALTER TABLE imports
  ADD COLUMN IF NOT EXISTS answers JSON NULL,
  ADD COLUMN IF NOT EXISTS touched_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3);
