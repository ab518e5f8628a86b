-- +goose Up
ALTER TABLE occurrence ADD COLUMN IF NOT EXISTS series_id BIGINT NULL AFTER place_id;

-- +goose Down
ALTER TABLE occurrence DROP COLUMN IF EXISTS series_id;
