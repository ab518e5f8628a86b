-- +goose Up
ALTER TABLE circuit_version ADD COLUMN IF NOT EXISTS notes JSON NOT NULL DEFAULT '[]' AFTER document;

-- +goose Down
ALTER TABLE circuit_version DROP COLUMN IF EXISTS notes;
