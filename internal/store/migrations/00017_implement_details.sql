-- +goose Up
ALTER TABLE implement ADD COLUMN details JSON NOT NULL DEFAULT '{}' AFTER checked;

-- +goose Down
ALTER TABLE implement DROP COLUMN details;
