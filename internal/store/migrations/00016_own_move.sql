-- +goose Up
CREATE TABLE IF NOT EXISTS own_move (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  public_id VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant JSON NOT NULL,
  created_at DATETIME(6) NOT NULL,
  updated_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY own_move_scope (studio_id, id),
  UNIQUE KEY own_move_public (studio_id, public_id),
  CONSTRAINT own_move_studio FOREIGN KEY (studio_id) REFERENCES studio (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS own_move;
