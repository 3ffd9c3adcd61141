-- Trees that were set aside are found again by place, and what names in files stand for
-- is remembered.
-- +goose Up
CREATE INDEX standing_aside ON standing (tract, stand, tag, tree_id) WHERE aside = 1;

CREATE TABLE name_in_file (
    written TEXT PRIMARY KEY,
    rank TEXT NOT NULL,
    name TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE name_in_file;
DROP INDEX standing_aside;
