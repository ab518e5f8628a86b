-- +goose Up
CREATE TABLE IF NOT EXISTS series (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  name VARCHAR(120) NOT NULL,
  stamp BIGINT NOT NULL DEFAULT 0,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY series_scope (studio_id, id),
  UNIQUE KEY series_named (studio_id, name),
  CONSTRAINT series_studio FOREIGN KEY (studio_id) REFERENCES studio (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS series;
