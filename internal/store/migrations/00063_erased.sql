-- +goose Up
CREATE TABLE IF NOT EXISTS erased (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY erased_scope (studio_id, id),
  UNIQUE KEY erased_hash (studio_id, hash)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS erased;
