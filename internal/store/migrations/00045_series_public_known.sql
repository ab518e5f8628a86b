-- +goose Up
ALTER TABLE series MODIFY COLUMN public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL, ADD UNIQUE KEY IF NOT EXISTS series_public (studio_id, public_id);

-- +goose Down
ALTER TABLE series DROP KEY IF EXISTS series_public, MODIFY COLUMN public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NULL;
