-- +goose Up
ALTER TABLE occurrence ADD KEY occurrence_named (studio_id, name, local_date, local_time);

-- +goose Down
ALTER TABLE occurrence DROP KEY occurrence_named;
