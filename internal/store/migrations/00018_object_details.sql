-- +goose Up
ALTER TABLE object ADD COLUMN details JSON NOT NULL DEFAULT '{}' AFTER count;

-- +goose Down
ALTER TABLE object DROP COLUMN details;
