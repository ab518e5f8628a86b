-- +goose Up
/* every studio at once */ UPDATE series SET stamp = 1 + FLOOR(RAND() * 9007199254740990) WHERE stamp = 0;

-- +goose Down
DO 0;
