-- +goose Up
ALTER TABLE circuit ADD COLUMN IF NOT EXISTS newest INT NOT NULL DEFAULT 0 AFTER head;

-- +goose Down
ALTER TABLE circuit DROP COLUMN IF EXISTS newest;
