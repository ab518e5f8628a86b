-- +goose Up
ALTER TABLE object ADD COLUMN IF NOT EXISTS details JSON NOT NULL DEFAULT '{}' AFTER count;

-- +goose Down
ALTER TABLE object DROP COLUMN IF EXISTS details;
