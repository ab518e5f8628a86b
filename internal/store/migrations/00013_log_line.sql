-- +goose Up
CREATE TABLE IF NOT EXISTS log_line (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  occurrence_id BIGINT NOT NULL,
  participant_id BIGINT NULL,
  subject VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  slot VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  lane VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  variant VARCHAR(60) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  planned INT NOT NULL,
  done INT NOT NULL,
  in_form INT NOT NULL,
  reserve INT NULL,
  pain VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  load_g BIGINT NOT NULL,
  resistance_g BIGINT NOT NULL,
  library_version VARCHAR(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  created_at DATETIME(6) NOT NULL,
  updated_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY log_line_scope (studio_id, id),
  UNIQUE KEY log_line_one (studio_id, occurrence_id, subject, slot),
  KEY log_line_variant (studio_id, subject, variant, created_at),
  CONSTRAINT log_line_occurrence FOREIGN KEY (studio_id, occurrence_id) REFERENCES occurrence (studio_id, id),
  CONSTRAINT log_line_participant FOREIGN KEY (studio_id, participant_id) REFERENCES participant (studio_id, id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS log_line;
