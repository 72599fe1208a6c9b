-- What was ever measured of a client: lets her newest figures be found without reading all of them.
CREATE TABLE IF NOT EXISTS measured_pairs (
  client_id BIGINT UNSIGNED NOT NULL,
  code VARCHAR(60) NOT NULL,
  side VARCHAR(5) NOT NULL,
  PRIMARY KEY (client_id, code, side),
  CONSTRAINT measured_pairs_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE
);
INSERT IGNORE INTO measured_pairs (client_id, code, side)
SELECT DISTINCT s.client_id, r.code, r.side FROM readings r JOIN sessions s ON s.id = r.session_id;
