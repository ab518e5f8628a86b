-- +goose Up
ALTER TABLE studio ADD COLUMN style JSON NOT NULL DEFAULT '{}' AFTER mass_unit, ADD COLUMN library_stamp VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT '' AFTER style;

-- +goose Down
ALTER TABLE studio DROP COLUMN style, DROP COLUMN library_stamp;
