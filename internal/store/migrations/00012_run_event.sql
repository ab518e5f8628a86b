-- +goose Up
CREATE TABLE IF NOT EXISTS run_event (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  run_id BIGINT NOT NULL,
  seq INT NOT NULL,
  client_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  kind VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME(6) NOT NULL,
  ms BIGINT NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY run_event_scope (studio_id, id),
  UNIQUE KEY run_event_seq (studio_id, run_id, seq),
  UNIQUE KEY run_event_client (studio_id, run_id, client_id),
  CONSTRAINT run_event_run FOREIGN KEY (studio_id, run_id) REFERENCES run (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS run_event;
