-- +goose Up
CREATE TABLE IF NOT EXISTS circuit_version (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  circuit_id BIGINT NOT NULL,
  version INT NOT NULL,
  client_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  kind VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  ops JSON NOT NULL,
  inverse JSON NOT NULL,
  document JSON NOT NULL,
  undo_to INT NULL,
  redo_to INT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY circuit_version_scope (studio_id, id),
  UNIQUE KEY circuit_version_one (studio_id, circuit_id, version),
  UNIQUE KEY circuit_version_client (studio_id, circuit_id, client_id),
  CONSTRAINT circuit_version_circuit FOREIGN KEY (studio_id, circuit_id) REFERENCES circuit (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS circuit_version;
