-- +goose Up
ALTER TABLE studio ADD COLUMN IF NOT EXISTS language VARCHAR(16) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT 'en' AFTER mass_unit;

-- +goose Down
ALTER TABLE studio DROP COLUMN IF EXISTS language;
