-- +goose Up
ALTER TABLE series ADD COLUMN IF NOT EXISTS public_id VARCHAR(26) CHARACTER SET ascii COLLATE ascii_bin NULL AFTER studio_id;

-- +goose Down
ALTER TABLE series DROP COLUMN IF EXISTS public_id;
