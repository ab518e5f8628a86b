-- +goose Up
ALTER TABLE occurrence MODIFY COLUMN series_id BIGINT NOT NULL, ADD KEY IF NOT EXISTS occurrence_series (studio_id, series_id, local_date, local_time), ADD CONSTRAINT occurrence_of_series FOREIGN KEY IF NOT EXISTS (studio_id, series_id) REFERENCES series (studio_id, id), DROP KEY IF EXISTS occurrence_named;

-- +goose Down
ALTER TABLE occurrence DROP FOREIGN KEY IF EXISTS occurrence_of_series, DROP KEY IF EXISTS occurrence_series, MODIFY COLUMN series_id BIGINT NULL, ADD KEY IF NOT EXISTS occurrence_named (studio_id, name, local_date, local_time);
