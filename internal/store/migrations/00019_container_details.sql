-- +goose Up
ALTER TABLE container ADD COLUMN IF NOT EXISTS details JSON NOT NULL DEFAULT '{}' AFTER max_g;

-- +goose Down
ALTER TABLE container DROP COLUMN IF EXISTS details;
