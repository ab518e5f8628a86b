-- +goose Up
CREATE TABLE IF NOT EXISTS log_line_past (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  occurrence_id BIGINT NOT NULL,
  subject VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  slot VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  done INT NOT NULL,
  in_form INT NOT NULL,
  reserve INT NULL,
  pain VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  joint VARCHAR(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
  others BOOLEAN NOT NULL DEFAULT FALSE,
  load_g BIGINT NOT NULL,
  device VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '',
  n BIGINT NOT NULL DEFAULT 0,
  written_at DATETIME(6) NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY log_line_past_scope (studio_id, id),
  KEY log_line_past_line (studio_id, occurrence_id, subject, slot),
  CONSTRAINT log_line_past_occurrence FOREIGN KEY (studio_id, occurrence_id) REFERENCES occurrence (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS log_line_past;
