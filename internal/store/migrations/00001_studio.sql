-- +goose Up
CREATE TABLE IF NOT EXISTS studio (
  id BIGINT NOT NULL AUTO_INCREMENT,
  public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  time_zone VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  mass_unit VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY studio_public (public_id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS studio;
