-- +goose Up
CREATE TABLE IF NOT EXISTS run (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  occurrence_id BIGINT NOT NULL,
  public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  circuit_version INT NOT NULL,
  plan JSON NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY run_scope (studio_id, id),
  UNIQUE KEY run_public (studio_id, public_id),
  KEY run_occurrence (studio_id, occurrence_id),
  CONSTRAINT run_occurrence FOREIGN KEY (studio_id, occurrence_id) REFERENCES occurrence (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS run;
