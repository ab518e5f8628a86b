-- +goose Up
CREATE TABLE IF NOT EXISTS pain_report (
  id BIGINT NOT NULL AUTO_INCREMENT,
  studio_id BIGINT NOT NULL,
  line_id BIGINT NULL,
  past_id BIGINT NULL,
  pain VARCHAR(8) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  joint VARCHAR(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  others BOOLEAN NOT NULL,
  created_at DATETIME(6) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY pain_report_scope (studio_id, id),
  UNIQUE KEY pain_report_line (studio_id, line_id),
  UNIQUE KEY pain_report_past (studio_id, past_id),
  CONSTRAINT pain_report_of_line FOREIGN KEY (studio_id, line_id) REFERENCES log_line (studio_id, id) ON DELETE CASCADE,
  CONSTRAINT pain_report_of_past FOREIGN KEY (studio_id, past_id) REFERENCES log_line_past (studio_id, id) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;

-- +goose Down
DROP TABLE IF EXISTS pain_report;
