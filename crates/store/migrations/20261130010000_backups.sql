-- When the house was backed up, so that its page can say how long ago that is.
CREATE TABLE IF NOT EXISTS backups (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  taken_at DATETIME(3) NOT NULL,
  bytes BIGINT UNSIGNED NOT NULL,
  encrypted BOOLEAN NOT NULL,
  second_place BOOLEAN NOT NULL
);
