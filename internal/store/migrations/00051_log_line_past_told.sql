-- +goose Up
ALTER TABLE log_line_past ADD COLUMN IF NOT EXISTS told JSON NOT NULL DEFAULT '{}' AFTER others;

-- +goose Down
ALTER TABLE log_line_past DROP COLUMN IF EXISTS told;
