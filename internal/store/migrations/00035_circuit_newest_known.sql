-- +goose Up
/* every studio at once */ UPDATE circuit c SET c.newest = (SELECT COALESCE(MAX(v.version), 0) FROM circuit_version v WHERE v.studio_id = c.studio_id AND v.circuit_id = c.id) WHERE c.newest = 0;

-- +goose Down
DO 0;
