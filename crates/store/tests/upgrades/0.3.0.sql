-- What 0.3.0 added to the schema, as it was released, and rows of a house of that day.
-- Blocks: drafted, traced off a nest, or a card measured by hand. A card has figures instead of a pattern.
ALTER TABLE blocks
  MODIFY COLUMN method JSON NULL,
  ADD COLUMN IF NOT EXISTS how VARCHAR(20) NOT NULL DEFAULT 'drafted' AFTER method,
  ADD COLUMN IF NOT EXISTS told VARCHAR(600) NOT NULL DEFAULT '' AFTER how,
  ADD COLUMN IF NOT EXISTS parent_id BIGINT UNSIGNED NULL AFTER told;
ALTER TABLE block_sizes
  MODIFY COLUMN pattern JSON NULL,
  ADD COLUMN IF NOT EXISTS card JSON NULL AFTER pattern;
ALTER TABLE block_sizes
  ADD CONSTRAINT IF NOT EXISTS block_sizes_source CHECK ((pattern IS NULL) <> (card IS NULL));
-- A block says how many patterns were begun from it.
ALTER TABLE patterns ADD INDEX IF NOT EXISTS patterns_block (block_id);
-- What a house keeps of its own beside the built-in: drafting methods, ease sets, size tables.
CREATE TABLE IF NOT EXISTS shelves (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  shelf VARCHAR(20) NOT NULL,
  name VARCHAR(120) NOT NULL,
  document JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  changed_by BIGINT UNSIGNED NOT NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY shelves_name (shelf, name),
  CONSTRAINT shelves_person FOREIGN KEY (changed_by) REFERENCES people (id)
);
-- What the dressmaker made of a plan, until the pattern is begun from it.
CREATE TABLE IF NOT EXISTS order_plans (
  order_id BIGINT UNSIGNED NOT NULL PRIMARY KEY,
  block_id BIGINT UNSIGNED NOT NULL,
  size VARCHAR(40) NOT NULL,
  ease_set VARCHAR(40) NOT NULL,
  changes JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  changed_by BIGINT UNSIGNED NOT NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT order_plans_order FOREIGN KEY (order_id) REFERENCES orders (id) ON DELETE CASCADE,
  CONSTRAINT order_plans_block FOREIGN KEY (block_id) REFERENCES blocks (id) ON DELETE CASCADE,
  CONSTRAINT order_plans_person FOREIGN KEY (changed_by) REFERENCES people (id)
);
-- The migrations that were done, as SQLx kept them.
INSERT INTO _sqlx_migrations (version, description, success, checksum, execution_time) VALUES
  (20261123200000, 'blocks whole', TRUE, '', 1);
-- Rows. All invented.
INSERT INTO blocks (id, name, method, how, told, ease_set, why, made_by) VALUES (2, 'Card of a skirt', NULL, 'measured', 'By hand.', 'standard', '', 1);
INSERT INTO block_sizes (block_id, place, label, figure, pattern, card) VALUES (2, 0, 'M', '{}', NULL, '{"waist":700.0,"hip":960.0}');
INSERT INTO shelves (shelf, name, document, changed_by) VALUES ('ease', 'Close', '{"bust":30}', 1);
INSERT INTO order_plans (order_id, block_id, size, ease_set, changes, changed_by) VALUES (1, 1, '12', 'standard', '{"off":["waist"]}', 1);
