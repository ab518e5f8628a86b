-- +goose Up
CREATE TABLE IF NOT EXISTS occurrence_lane (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  occurrence_id BIGINT NOT NULL,
  lane VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  people INT NOT NULL,
  body_decimal VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  body_unit VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  body_g BIGINT NOT NULL,
  stature_decimal VARCHAR(24) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  stature_unit VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  stature_mm BIGINT NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY occurrence_lane_scope (studio_id, id),
  UNIQUE KEY occurrence_lane_one (studio_id, occurrence_id, lane),
  CONSTRAINT occurrence_lane_occurrence FOREIGN KEY (studio_id, occurrence_id) REFERENCES occurrence (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS occurrence_lane;
