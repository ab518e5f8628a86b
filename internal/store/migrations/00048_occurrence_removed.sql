-- +goose Up
ALTER TABLE occurrence ADD COLUMN IF NOT EXISTS removed_at DATETIME(6) NULL AFTER minutes;

-- +goose Down
ALTER TABLE occurrence DROP COLUMN IF EXISTS removed_at;
