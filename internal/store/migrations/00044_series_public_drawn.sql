-- +goose Up
/* every studio at once */ UPDATE series s JOIN studio t ON t.id = s.studio_id SET s.public_id = LEFT(SHA2(CONCAT(t.public_id, '/series/', s.id), 256), 26) WHERE s.public_id IS NULL;

-- +goose Down
DO 0;
