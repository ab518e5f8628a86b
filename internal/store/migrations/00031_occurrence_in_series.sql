-- +goose Up
/* every studio at once */ UPDATE occurrence o JOIN series s ON s.studio_id = o.studio_id AND s.name = o.name SET o.series_id = s.id WHERE o.series_id IS NULL;

-- +goose Down
DO 0;
