-- +goose Up
-- Lists of the trees of single tracts, which trees may be ranked among.
CREATE TABLE list (
    name TEXT PRIMARY KEY,
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

CREATE INDEX tree_by_region ON tree (region);

-- +goose Down
DROP INDEX tree_by_region;
DROP TABLE list;
