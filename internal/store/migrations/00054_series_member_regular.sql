-- +goose Up
ALTER TABLE series_member ADD COLUMN IF NOT EXISTS regular BOOLEAN NOT NULL DEFAULT TRUE AFTER person_id;

-- +goose Down
ALTER TABLE series_member DROP COLUMN IF EXISTS regular;
