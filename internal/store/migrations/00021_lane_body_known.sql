-- +goose Up
ALTER TABLE occurrence_lane ADD COLUMN IF NOT EXISTS body_known BOOLEAN NOT NULL DEFAULT FALSE AFTER body_g;

-- +goose Down
ALTER TABLE occurrence_lane DROP COLUMN IF EXISTS body_known;
