-- +goose Up
/* every studio at once */ INSERT IGNORE INTO series (studio_id, name, created_at) SELECT studio_id, name, MIN(created_at) FROM occurrence GROUP BY studio_id, name;

-- +goose Down
DO 0;
