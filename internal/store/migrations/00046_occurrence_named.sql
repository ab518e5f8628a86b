-- +goose Up
ALTER TABLE occurrence ADD KEY IF NOT EXISTS occurrence_of_name (studio_id, name, local_date, local_time);

-- +goose Down
ALTER TABLE occurrence DROP KEY IF EXISTS occurrence_of_name;
