-- +goose Up
ALTER TABLE circuit_version ADD COLUMN base INT NULL AFTER version, ADD COLUMN side BOOLEAN NOT NULL DEFAULT FALSE AFTER kind;

-- +goose Down
ALTER TABLE circuit_version DROP COLUMN base, DROP COLUMN side;
