-- Blocks are never updated: a correction is a new version. A pattern is a frozen block and a recipe.
CREATE TABLE blocks (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  client_id BIGINT UNSIGNED NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  method JSON NOT NULL,
  ease_set VARCHAR(40) NOT NULL,
  why VARCHAR(400) NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT blocks_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE,
  CONSTRAINT blocks_person FOREIGN KEY (made_by) REFERENCES people (id)
);
CREATE TABLE block_sizes (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  block_id BIGINT UNSIGNED NOT NULL,
  place INT UNSIGNED NOT NULL,
  label VARCHAR(40) NOT NULL,
  figure JSON NOT NULL,
  pattern JSON NOT NULL,
  UNIQUE KEY block_sizes_label (block_id, label),
  CONSTRAINT block_sizes_block FOREIGN KEY (block_id) REFERENCES blocks (id) ON DELETE CASCADE
);
CREATE TABLE orders (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  client_id BIGINT UNSIGNED NOT NULL,
  garment VARCHAR(120) NOT NULL,
  set_code VARCHAR(40) NOT NULL,
  wanted_on DATE NULL,
  finished_at DATETIME(3) NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  CONSTRAINT orders_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
CREATE TABLE patterns (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  order_id BIGINT UNSIGNED NOT NULL,
  block_id BIGINT UNSIGNED NOT NULL,
  block_name VARCHAR(200) NOT NULL,
  block JSON NOT NULL,
  recipe JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY patterns_order (order_id),
  CONSTRAINT patterns_order FOREIGN KEY (order_id) REFERENCES orders (id) ON DELETE CASCADE
);
CREATE TABLE pattern_versions (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  pattern_id BIGINT UNSIGNED NOT NULL,
  version INT UNSIGNED NOT NULL,
  recipe JSON NOT NULL,
  pattern JSON NOT NULL,
  why VARCHAR(400) NOT NULL,
  made_by BIGINT UNSIGNED NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  UNIQUE KEY pattern_versions_version (pattern_id, version),
  CONSTRAINT pattern_versions_pattern FOREIGN KEY (pattern_id) REFERENCES patterns (id) ON DELETE CASCADE,
  CONSTRAINT pattern_versions_person FOREIGN KEY (made_by) REFERENCES people (id)
);
