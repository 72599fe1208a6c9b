-- Toiles and paper patterns on their way to a block: what was stated, every click as it was made, every answer. May run again.
CREATE TABLE IF NOT EXISTS drapes (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  -- Whose body it was draped for, or which form's; neither for a pattern of the house.
  client_id BIGINT UNSIGNED NULL,
  form_id BIGINT UNSIGNED NULL,
  facts JSON NOT NULL,
  answers JSON NOT NULL DEFAULT '[]',
  -- The block it became: nothing of it is changed from then on.
  block_id BIGINT UNSIGNED NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  begun_by BIGINT UNSIGNED NOT NULL,
  begun_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  changed_by BIGINT UNSIGNED NOT NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  removed_at DATETIME(3) NULL,
  KEY drapes_client (client_id),
  KEY drapes_form (form_id),
  KEY drapes_block (block_id),
  CONSTRAINT drapes_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE,
  CONSTRAINT drapes_form FOREIGN KEY (form_id) REFERENCES forms (id),
  CONSTRAINT drapes_block FOREIGN KEY (block_id) REFERENCES blocks (id) ON DELETE SET NULL,
  CONSTRAINT drapes_begun_by FOREIGN KEY (begun_by) REFERENCES people (id),
  CONSTRAINT drapes_changed_by FOREIGN KEY (changed_by) REFERENCES people (id)
);
-- Front and back, each with its own revision: two people mark them at once.
CREATE TABLE IF NOT EXISTS drape_pieces (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  drape_id BIGINT UNSIGNED NOT NULL,
  piece VARCHAR(8) NOT NULL,
  document JSON NOT NULL,
  revision INT UNSIGNED NOT NULL DEFAULT 1,
  UNIQUE KEY drape_pieces_piece (drape_id, piece),
  CONSTRAINT drape_pieces_drape FOREIGN KEY (drape_id) REFERENCES drapes (id) ON DELETE CASCADE
);
-- The photograph a piece is marked in, where it is marked in one.
CREATE TABLE IF NOT EXISTS drape_photographs (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  drape_piece_id BIGINT UNSIGNED NOT NULL,
  image LONGBLOB NOT NULL,
  width INT UNSIGNED NOT NULL,
  height INT UNSIGNED NOT NULL,
  UNIQUE KEY drape_photographs_piece (drape_piece_id),
  CONSTRAINT drape_photographs_piece FOREIGN KEY (drape_piece_id) REFERENCES drape_pieces (id) ON DELETE CASCADE
);
