-- +goose Up
ALTER TABLE container ADD COLUMN details JSON NOT NULL DEFAULT '{}' AFTER max_g;

-- +goose Down
ALTER TABLE container DROP COLUMN details;
