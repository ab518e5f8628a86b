-- +goose Up
ALTER TABLE implement ADD COLUMN IF NOT EXISTS details JSON NOT NULL DEFAULT '{}' AFTER checked;

-- +goose Down
ALTER TABLE implement DROP COLUMN IF EXISTS details;
