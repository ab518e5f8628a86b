-- +goose Up
CREATE TABLE IF NOT EXISTS occurrence (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  place_id BIGINT NOT NULL,
  public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  local_date DATE NOT NULL,
  local_time VARCHAR(5) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  time_zone VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  minutes INT NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY occurrence_scope (studio_id, id),
  UNIQUE KEY occurrence_public (studio_id, public_id),
  KEY occurrence_when (studio_id, local_date, local_time),
  CONSTRAINT occurrence_place FOREIGN KEY (studio_id, place_id) REFERENCES place (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS occurrence;
