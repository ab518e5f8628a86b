-- +goose Up
CREATE TABLE IF NOT EXISTS series_member (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  series_id BIGINT NOT NULL,
  person_id BIGINT NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY series_member_scope (studio_id, id),
  UNIQUE KEY series_member_once (studio_id, series_id, person_id),
  KEY series_member_person (studio_id, person_id),
  CONSTRAINT series_member_series FOREIGN KEY (studio_id, series_id) REFERENCES series (studio_id, id),
  CONSTRAINT series_member_person FOREIGN KEY (studio_id, person_id) REFERENCES person (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS series_member;
