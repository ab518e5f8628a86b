-- +goose Up
ALTER TABLE participant ADD COLUMN IF NOT EXISTS person_id BIGINT NULL AFTER occurrence_id, ADD KEY IF NOT EXISTS participant_person (studio_id, person_id), ADD CONSTRAINT participant_is_person FOREIGN KEY IF NOT EXISTS (studio_id, person_id) REFERENCES person (studio_id, id);

-- +goose Down
ALTER TABLE participant DROP FOREIGN KEY IF EXISTS participant_is_person, DROP KEY IF EXISTS participant_person, DROP COLUMN IF EXISTS person_id;
