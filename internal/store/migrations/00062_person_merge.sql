-- +goose Up
CREATE TABLE IF NOT EXISTS person_merge (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  public_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id BIGINT NOT NULL,
  moved JSON NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY person_merge_scope (studio_id, id),
  UNIQUE KEY person_merge_public (studio_id, public_id),
  KEY person_merge_person (studio_id, person_id),
  CONSTRAINT person_merge_into FOREIGN KEY (studio_id, person_id) REFERENCES person (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS person_merge;
