-- Long work: asked for once, done by any server, gone on with by another one where its server goes away. What is put together for
-- somebody lies beside it in parts until the next day. May run again.
CREATE TABLE IF NOT EXISTS jobs (
  id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
  kind VARCHAR(20) NOT NULL,
  -- The file that is saved, the client whose file it is; 0 for the whole house.
  of_id BIGINT UNSIGNED NOT NULL,
  -- What is hers goes with her.
  client_id BIGINT UNSIGNED NULL,
  asked_by BIGINT UNSIGNED NOT NULL,
  asked_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
  state VARCHAR(12) NOT NULL DEFAULT 'waiting',
  done INT UNSIGNED NOT NULL DEFAULT 0,
  total INT UNSIGNED NOT NULL DEFAULT 0,
  -- Who has it in hand, and until when that is believed without another word.
  worker BINARY(16) NULL,
  lease_until DATETIME(3) NULL,
  begun INT UNSIGNED NOT NULL DEFAULT 0,
  says VARCHAR(300) NULL,
  file_name VARCHAR(200) NULL,
  ended_at DATETIME(3) NULL,
  -- The same work is asked for once at a time.
  in_hand TINYINT AS (IF(ended_at IS NULL, 1, NULL)) PERSISTENT,
  UNIQUE KEY jobs_in_hand (in_hand, kind, of_id),
  KEY jobs_client (client_id),
  KEY jobs_person (asked_by),
  CONSTRAINT jobs_client FOREIGN KEY (client_id) REFERENCES clients (id) ON DELETE CASCADE,
  CONSTRAINT jobs_person FOREIGN KEY (asked_by) REFERENCES people (id)
);
CREATE TABLE IF NOT EXISTS job_files (
  job_id BIGINT UNSIGNED NOT NULL,
  part INT UNSIGNED NOT NULL,
  bytes MEDIUMBLOB NOT NULL,
  PRIMARY KEY (job_id, part),
  CONSTRAINT job_files_job FOREIGN KEY (job_id) REFERENCES jobs (id) ON DELETE CASCADE
);
-- A file that a server of the version before was saving is gone on with.
INSERT INTO jobs (kind, of_id, asked_by, done, total)
  SELECT 'import', i.id, i.made_by, i.done, i.total FROM imports i WHERE i.state IN ('running', 'stopping');
