-- +goose Up
CREATE TABLE IF NOT EXISTS object (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  place_id BIGINT NOT NULL,
  public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  use_as VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  mass_decimal VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  mass_unit VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  mass_g BIGINT NOT NULL,
  count INT NOT NULL,
  retired_at DATETIME(6) NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY object_scope (studio_id, id),
  UNIQUE KEY object_public (studio_id, public_id),
  KEY object_place (studio_id, place_id),
  CONSTRAINT object_place FOREIGN KEY (studio_id, place_id) REFERENCES place (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS object;
