-- +goose Up
ALTER TABLE participant DROP COLUMN IF EXISTS name;

-- +goose Down
ALTER TABLE participant ADD COLUMN IF NOT EXISTS name VARCHAR(120) NOT NULL DEFAULT '' AFTER public_id;
