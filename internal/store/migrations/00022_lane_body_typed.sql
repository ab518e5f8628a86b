-- +goose Up
UPDATE occurrence_lane SET body_known = TRUE WHERE NOT (body_decimal = '70' AND body_unit = 'kg');

-- +goose Down
UPDATE occurrence_lane SET body_known = FALSE;
