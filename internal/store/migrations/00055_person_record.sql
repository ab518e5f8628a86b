-- +goose Up
CREATE TABLE IF NOT EXISTS person_record (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  person_id BIGINT NOT NULL,
  public_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  kind VARCHAR(12) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  local_date DATE NOT NULL,
  data JSON NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY person_record_scope (studio_id, id),
  UNIQUE KEY person_record_public (studio_id, public_id),
  KEY person_record_day (studio_id, person_id, local_date),
  CONSTRAINT person_record_person FOREIGN KEY (studio_id, person_id) REFERENCES person (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS person_record;
